"""Blur by motion vectors: against shifted copies, closed forms, and the pass renderer's own open shutter."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
import scipy.ndimage as ndi
from core.reference.pictures import Arrays
from core.scene.test_cards import scene_of, setup
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.comp import Comp, Element, Layer
from neatveil.errors import NameUnknown, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.scene.frames import render_frame
from neatveil.scene.model import Scene

WIDTH, HEIGHT = 96, 64


def blurred(rgba, right, down, level=0, extra=(), **fields):
    """What a layer of ``rgba`` shows with vectors ``right`` and ``down``, ``(H, W)`` or a number each."""
    height, width = rgba.shape[:2]
    vectors = {n: np.broadcast_to(np.float32(v), (height, width)) for n, v in (("X", right), ("Y", down))}
    planes = {"own": {**{f"motion.{n}": v for n, v in vectors.items()}, **dict(extra)}}
    element = Element(file="own", still=True, encoding="linear", reading={"alpha": "premultiplied"})
    step = {"kind": "motion_blur", "shutter": 1.0, **fields}
    layer = Layer(id="a", name="car", element="own", steps=[step])
    comp = Comp(width=width, height=height, elements={"own": element}, layers=(layer,))
    return Evaluator(Arrays({"own": [rgba]}, planes)).picture(comp, 1, level=level).rgba()


def soft(seed=1, margin=20):
    """Light with an alpha, and nothing near the border."""
    rng = np.random.default_rng(seed)
    rgba = ndi.gaussian_filter(rng.random((HEIGHT, WIDTH, 4)), (2, 2, 0)).astype(np.float32)
    rgba[..., :3] *= rgba[..., 3:]
    inside = np.zeros((HEIGHT, WIDTH, 1), np.float32)
    inside[margin:-margin, margin:-margin] = 1
    return rgba * inside


def square(value=1.0, size=16):
    """An opaque square in the middle, hard-edged."""
    rgba = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    top, left = (HEIGHT - size) // 2, (WIDTH - size) // 2
    rgba[top : top + size, left : left + size] = (value, value / 2, 0, 1)
    return rgba


@given(st.integers(-6, 6), st.integers(-6, 6), st.integers(1, 4), st.integers(0, 99))
def test_whole_vectors_give_the_mean_of_shifted_copies(x, y, half, seed):
    samples = 2 * half + 1
    picture = soft(seed, 28)
    got = blurred(picture, x * samples, y * samples, samples=samples)
    copies = [np.roll(picture, (y * k, x * k), (0, 1)) for k in range(-half, half + 1)]
    inside = [c for k, c in zip(range(-half, half + 1), copies, strict=True) if abs(k * y) < 28 > abs(k * x)]
    if len(inside) == samples:
        np.testing.assert_allclose(got, np.mean(copies, 0), atol=1e-6)


def test_vectors_of_zero_are_the_picture_bit_for_bit():
    np.testing.assert_array_equal(blurred(soft(), 0, 0), soft())


@given(st.floats(-20, 20), st.floats(-20, 20), st.integers(2, 24))
def test_light_and_alpha_are_kept(x, y, samples):
    picture = soft(2, 24)
    got = blurred(picture, x, y, samples=samples)
    np.testing.assert_allclose(got.sum((0, 1)), picture.sum((0, 1)), rtol=1e-5)


def edge_of(moving, order="moving", depth=None):
    """A square of red that moves 13 pixels, before or behind a floor of blue: vectors and picture."""
    picture = square()
    there = picture[..., 3] == 1
    picture[~there] = (0, 0, 1, 1)
    x = np.where(there, *((13.0, 0.0) if moving else (0.0, 13.0)))
    extra = {} if depth is None else {"depth.Z": np.where(there, *depth).astype(np.float32)}
    fields = {"order": order} if depth is None else {"depth": "depth.Z"}
    return picture, there, blurred(picture, x, 0, samples=13, extra=extra, **fields)


@pytest.mark.parametrize("how", [{"order": "moving"}, {"depth": (1.0, 9.0)}])
def test_a_moving_front_spreads_over_a_still_back(how):
    """Closed form: a hard edge under an even shutter is a ramp as wide as the movement."""
    picture, _, got = edge_of(True, **how)
    row, left, right = HEIGHT // 2, (WIDTH - 16) // 2, (WIDTH + 16) // 2
    ramp = got[row, right - 7 : right + 7, 0]
    np.testing.assert_allclose(ramp, [1.0, *np.arange(12, -1, -1) / 13], atol=1e-5)
    np.testing.assert_allclose(got[row, left - 7 : left + 7, 0], ramp[::-1], atol=1e-5)
    np.testing.assert_allclose(got[..., 0] + got[..., 2], 1, atol=1e-5, err_msg="red over blue, no hole")
    np.testing.assert_array_equal(got[: HEIGHT // 2 - 8], picture[: HEIGHT // 2 - 8])


@pytest.mark.parametrize("how", [{"order": "still"}, {"depth": (1.0, 9.0)}])
def test_a_still_front_stays_sharp_before_a_moving_back(how):
    picture, there, got = edge_of(False, **how)
    np.testing.assert_allclose(got[there], picture[there], atol=1e-6)
    np.testing.assert_allclose(got[~there], picture[~there], atol=1e-6, err_msg="nothing of it bleeds")


def test_a_still_front_told_as_further_back_is_covered():
    picture, there, got = edge_of(False, depth=(9.0, 1.0))
    assert np.abs(got[there] - picture[there]).max() > 0.4


def test_long_vectors_that_grow_do_not_tear():
    """A floor that comes nearer, half again as large in a frame: as even as it was."""
    y, x = np.mgrid[:HEIGHT, :WIDTH] - np.array([HEIGHT / 2, WIDTH / 2])[:, None, None]
    even = np.ones((HEIGHT, WIDTH, 4), np.float32) * (0.2, 0.4, 0.6, 1)
    got = blurred(even.astype(np.float32), 0.5 * x, 0.5 * y)
    np.testing.assert_allclose(got, even, atol=1e-5)


@pytest.mark.parametrize("border", ["continue", "clear"])
def test_what_comes_in_over_the_border_moves_too(border):
    even = np.ones((HEIGHT, WIDTH, 4), np.float32)
    got = blurred(even, 16, 0, border=border)
    assert (got.min() == 1) == (border == "continue")
    assert got[:, 20:-20].min() == 1


def test_codes_and_flips_are_the_same_vectors():
    picture = soft()
    plain = blurred(picture, 9.0, -4.0)
    np.testing.assert_allclose(
        blurred(picture, 0.5 + 9 / 64, 0.5 - 4 / 64, stored="codes", maximum=32.0), plain, atol=1e-5
    )
    np.testing.assert_allclose(blurred(picture, -9.0, 4.0, flip_x=True, flip_y=True), plain, atol=1e-6)
    np.testing.assert_allclose(blurred(picture, 18.0, -8.0, scale=0.5), plain, atol=1e-6)


def test_the_phase_is_when_the_shutter_is_open():
    """Open from the frame to the next: half the movement further along."""
    picture = square()
    middle, after = blurred(picture, 13, 0, samples=13), blurred(picture, 13, 0, samples=13, phase=0.5)
    at = [float((p[..., 3].sum(0) * np.arange(WIDTH)).sum() / p[..., 3].sum()) for p in (middle, after)]
    assert at[1] - at[0] == pytest.approx(6.5, abs=1e-3)


def test_at_a_level_it_is_the_whole_picture_halved():
    whole, half = (blurred(soft(), 16, 8, level=n) for n in (0, 1))
    shrunk = cv2.resize(whole, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA)
    assert np.abs(half - shrunk).max() < 0.01


def test_an_edge_that_mixes_vectors_moves_with_its_surface():
    """Anti-aliased: the vector times the coverage. The fringe would stay behind."""
    alpha = cv2.GaussianBlur(square()[..., 3], (0, 0), 0.45)
    picture = np.dstack([alpha * 0.8, alpha * 0.2, alpha * 0.1, alpha]).astype(np.float32)
    alike = blurred(picture, 12.0 * (alpha > 0), 0)
    np.testing.assert_allclose(blurred(picture, 12.0 * alpha, 0), alike, atol=2e-3)


@pytest.mark.parametrize("bad", [np.nan, np.inf, -np.inf, 1e10])
def test_what_is_no_movement_stands_still(bad):
    picture = square()
    vectors = np.full((HEIGHT, WIDTH), bad, np.float32)
    np.testing.assert_array_equal(blurred(picture, vectors, vectors), picture)
    vectors[:, : WIDTH // 2] = 6
    got = blurred(picture, vectors, 0)
    assert np.isfinite(got).all()
    assert got.max() <= 1.0001


def test_vectors_that_are_missing_or_of_another_size_are_named():
    with pytest.raises(NameUnknown, match=r"Layer car.*Step Motion blur.*no channel way\.X"):
        blurred(square(), 0, 0, x="way.X")
    element = Element(file="own", still=True, encoding="linear", reading={"alpha": "premultiplied"})
    layer = Layer(id="a", name="car", element="own", steps=[{"kind": "motion_blur"}])
    comp = Comp(width=WIDTH, height=HEIGHT, elements={"own": element}, layers=(layer,))

    class Other(Arrays):
        def read(self, source, frame, planes=None):
            rows = {n: p for n, p in self.extra[source].items() if n in (planes or ())}
            if not rows:
                return super().read(source, frame, planes)
            return super().read("small", frame, planes)

    small = np.zeros((20, 30), np.float32)
    extra = {"own": {"motion.X": small, "motion.Y": small}, "small": {"motion.X": small, "motion.Y": small}}
    stored = {"own": [square()], "small": [np.zeros((20, 30, 4), np.float32)]}
    with pytest.raises(ValueRefused, match=r"Layer car.*motion\.X is 30 x 20, the picture 96 x 64"):
        Evaluator(Other(stored, extra)).picture(comp, 1)


def test_arrows_show_where_pixels_go():
    got = blurred(np.zeros((HEIGHT, WIDTH, 4), np.float32), 14.0, 0, show="vectors")
    assert got[16, 17:29, 3].min() > 0.9, "a shaft from the middle of the first cell to 14 pixels right"
    assert got[16, 34:46, 3].max() == 0


def turning():
    """The camera goes round a dim board behind a bright one: its vectors, its picture, its open shutter."""
    keys = [{"frame": 1, "value": 0}, {"frame": 3, "value": 12}]
    camera = {"azimuth": 0.0, "elevation": 4.0, "distance": 4.0, "keys": {"azimuth": {"keys": keys}}}
    back, eye = scene_of(np.eye(3), (0, 0, -3.0), 14.0).nodes
    front = scene_of(np.eye(3), (0.2, 0, 1.2), 0.8).nodes[0]
    mesh = front.meshes[0]
    bright = replace(mesh, material=replace(mesh.material, name="bright", emission=(4.0, 4.0, 4.0)))
    scene = Scene("s", (back, replace(front, name="front", meshes=(bright,)), eye))
    row = {"placed_camera": camera, "samples": 512}
    still = render_frame(scene, setup(passes=["beauty", "motion", "depth"], **row), 2)
    return still, render_frame(scene, setup(shutter={"angle": 180, "samples": 64}, **row), 2)


def test_it_is_what_the_renderer_draws_with_its_shutter_open():
    """Mean within 1/255; by each pixel's own vector alone it is further off."""
    still, truth = turning()
    rgba, expected = (np.stack([p[n] for n in "RGBA"], -1) for p in (still, truth))
    x, y = still["motion.X"], still["motion.Y"]
    assert np.hypot(x, y).max() > 8
    got = blurred(rgba, x, y, shutter=0.5, depth="depth.Z", extra={"depth.Z": still["depth.Z"]}, samples=32)
    off = np.abs(got - expected)
    naive = np.abs(gathered(rgba, x * 0.5, y * 0.5, 32) - expected)
    assert off.mean() < 1 / 255
    assert np.quantile(off, 0.999) < np.quantile(naive, 0.999) * 0.8


def gathered(rgba, x, y, samples):
    height, width = x.shape
    b, a = np.mgrid[:height, :width].astype(np.float32)
    rows = [(i + 0.5) / samples - 0.5 for i in range(samples)]
    return np.mean(
        [
            cv2.remap(
                rgba,
                (a - t * x).astype(np.float32),
                (b - t * y).astype(np.float32),
                cv2.INTER_LINEAR,
                borderMode=cv2.BORDER_REPLICATE,
            )
            for t in rows
        ],
        0,
    )


def test_on_plain_arrays_it_is_the_same():
    picture = soft()
    vectors = np.dstack(np.broadcast_arrays(np.float32(9), np.zeros((HEIGHT, WIDTH), np.float32)))
    got = arrays.motion_blurred(picture, vectors, shutter=1.0)
    np.testing.assert_allclose(got, blurred(picture, 9, 0), atol=1e-6)
