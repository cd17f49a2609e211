"""Blur by depth: against the disc, the closed form of two planes, and the pass renderer's own lens."""

from dataclasses import replace
from math import tan

import cv2
import numpy as np
import pytest
from core.reference.pictures import Arrays
from core.scene.test_cards import pattern, scene_of, setup
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.comp import Comp, Element, Layer, SceneCamera
from neatveil.errors import NameUnknown, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.scene.frames import render_frame
from neatveil.scene.manifest import manifest
from neatveil.scene.model import Scene
from neatveil.scene.render_camera import camera_of_manifest
from neatveil.steps.blur import disc
from neatveil.steps.depth_blur import polygon

WIDTH, HEIGHT = 96, 64


def blurred(rgba, away, level=0, cameras=None, **fields):
    """What a layer of ``rgba`` shows that is ``away``, ``(H, W)`` or a number."""
    height, width = rgba.shape[:2]
    planes = {"own": {"depth.Z": np.broadcast_to(np.float32(away), (height, width))}}
    element = Element(file="own", still=True, encoding="linear", reading={"alpha": "premultiplied"})
    step = {"kind": "depth_blur", "size": 8.0, "focus": 2.0, **fields}
    layer = Layer(id="a", name="quay", element="own", steps=[step])
    comp = Comp(
        width=width, height=height, elements={"own": element}, layers=(layer,), cameras=cameras or {},
        camera="v1" if cameras else "",
    )  # fmt: skip
    return Evaluator(Arrays({"own": [rgba]}, planes)).picture(comp, 1, level=level).rgba()


def even(*colour):
    return np.ones((HEIGHT, WIDTH, 4), np.float32) * np.float32(colour)


def noise(seed=1):
    rgba = np.random.default_rng(seed).random((HEIGHT, WIDTH, 4)).astype(np.float32)
    rgba[..., :3] *= rgba[..., 3:]
    return rgba


def by_disc(rgba, radius):
    return cv2.filter2D(rgba, -1, disc(radius), borderType=cv2.BORDER_REPLICATE)


@given(st.floats(0.3, 20), st.integers(0, 99))
def test_one_depth_is_the_disc(depth, seed):
    """Radius by the thin lens: size |d - f| / d, at most the largest."""
    radius = min(abs(depth - 2.0) / depth * 8, 12.0)
    got = blurred(noise(seed), depth, largest=12.0)
    expected = by_disc(noise(seed), radius) if radius > 0.35 else noise(seed)
    np.testing.assert_allclose(got, expected, atol=2e-5)  # radii are float32


@pytest.mark.parametrize(("near", "far"), [(1.0, 2.0), (1.2, 9.0), (2.0, 8.0), (4.0, 16.0), (0.8, 1.4)])
def test_two_planes_are_their_blurs_over_one_another(near, far):
    """Closed form: the front's disc of its colour and of its coverage, over the back's own blur."""
    left = np.arange(WIDTH) < WIDTH // 2
    picture = np.where(left[None, :, None], even(1, 0.5, 0, 1), even(0, 0.2, 0.8, 1)).astype(np.float32)
    got = blurred(picture, np.where(left, near, far))
    radius = abs(near - 2.0) / near * 8
    cover = np.repeat(left[None].astype(np.float32), HEIGHT, 0)
    cover = by_disc(cover, radius) if radius > 0.35 else cover
    expected = even(1, 0.5, 0, 1) * cover[..., None] + even(0, 0.2, 0.8, 1) * (1 - cover[..., None])
    if near >= 2:  # nothing in front of the focus is spread over what is behind: its edge is its own
        inside = left if radius <= 0.35 else np.arange(WIDTH) < WIDTH // 2 - radius
        np.testing.assert_allclose(got[:, inside], expected[:, inside], atol=1e-4)
    np.testing.assert_allclose(got, expected, atol=1e-4)


def test_a_sharp_front_does_not_bleed_into_what_is_blurred_behind_it():
    left = np.arange(WIDTH) < WIDTH // 2
    picture = np.where(left[None, :, None], even(40, 0, 0, 1), even(0, 0.2, 0.8, 1)).astype(np.float32)
    got = blurred(picture, np.where(left, 2.0, 50.0))
    np.testing.assert_allclose(got, picture, atol=1e-4)
    # what plain blur by the same circles does: most of the light of the front is in the back
    naive = by_disc(picture, 7.7)
    assert naive[:, WIDTH // 2 + 2, 0].min() > 10


def test_a_slope_has_no_steps_and_no_seams():
    even_slope = np.linspace(0.9, 12, WIDTH, dtype=np.float32)
    got = blurred(even(0.2, 0.5, 0.7, 1), even_slope)
    np.testing.assert_allclose(got, even(0.2, 0.5, 0.7, 1), atol=1e-5)
    ramp = even(1, 1, 1, 1)
    ramp[..., :3] = np.linspace(0, 1, WIDTH)[None, :, None]
    got = blurred(ramp, even_slope, size=4.0)
    steps = np.diff(got[HEIGHT // 2, 16:-16, 0])
    assert steps.min() > 0
    assert np.abs(np.diff(steps)).max() < 0.004


@pytest.mark.parametrize("depth", [1.3, 30.0])
def test_highlights_keep_their_energy(depth):
    picture = even(0, 0, 0, 0)
    picture[HEIGHT // 2, WIDTH // 2] = (900, 300, 100, 1)
    slope = np.full((HEIGHT, WIDTH), depth, np.float32)
    got = blurred(picture, slope)
    np.testing.assert_allclose(got.sum((0, 1)), (900, 300, 100, 1), rtol=1e-5)
    slope += np.linspace(0, 0.2, WIDTH, dtype=np.float32)
    np.testing.assert_allclose(blurred(picture, slope).sum((0, 1)), (900, 300, 100, 1), rtol=0.02)


@given(st.integers(3, 12), st.floats(4, 14), st.floats(0, 360))
def test_blades_have_the_area_of_the_disc_and_turn(sides, radius, rotation):
    weights = polygon(radius, sides, rotation)
    assert weights.sum() == pytest.approx(1, abs=1e-5)
    # a regular polygon of that area: each pixel inside has the same share
    assert weights.max() == pytest.approx(1 / (np.pi * radius * radius), rel=0.03)
    again = polygon(radius, sides, rotation + 360 / sides)
    assert np.abs(weights - again).max() < 0.1 * weights.max()


def test_a_highlight_takes_the_shape_of_the_aperture():
    """A triangle that points up: its widest row is its lowest."""
    picture = even(0, 0, 0, 1)
    picture[HEIGHT // 2, WIDTH // 2, 0] = 100
    got = blurred(picture, 50.0, aperture="blades", blades=3, size=12.0)[..., 0]
    wide = (got > got.max() / 2).sum(axis=1)
    rows = np.flatnonzero(wide)
    assert wide[rows[0]] < 4
    assert wide[rows[-2]] > 20


def test_depth_in_other_units_is_the_same_distance():
    rng = np.random.default_rng(3)
    distance = np.where(rng.random((HEIGHT, WIDTH)) < 0.5, 1.25, 6.25).astype(np.float32)
    expected = blurred(noise(), distance)
    for stored, values in (
        ("inverse", 1 / distance), ("normalised", (distance - 1) / 9), ("inverted", 1 - (distance - 1) / 9),
    ):  # fmt: skip
        got = blurred(noise(), values.astype(np.float32), stored=stored, nearest=1.0, farthest=10.0)
        np.testing.assert_allclose(got, expected, atol=2e-3)


def test_the_space_in_focus_stays_sharp_and_both_sides_have_their_own_amount():
    for depth in (1.6, 2.0, 2.4):
        np.testing.assert_array_equal(blurred(noise(), depth, in_focus=0.9), noise())
    np.testing.assert_array_equal(blurred(noise(), 1.0, near_amount=0.0), noise())
    np.testing.assert_allclose(blurred(noise(), 4.0, far_amount=0.5), by_disc(noise(), 2.0), atol=2e-6)


def test_by_a_lens_the_circle_is_that_of_the_thin_lens():
    """50 mm, f/2, focused at 2 m, a point at 4 m: c = f^2 |d - s| / (N d (s - f)) (Potmesil 1982)."""
    circle = 0.05**2 / (2 * (2 - 0.05)) * (4 - 2) / 4  # metres on the sensor
    radius = circle / 2 / 0.024 * HEIGHT
    got = blurred(noise(), 400.0, by="lens", focal_length=50.0, f_number=2.0, focus=200.0, unit=0.01)
    np.testing.assert_allclose(got, by_disc(noise(), radius) if radius > 0.35 else noise(), atol=1e-5)
    wide = blurred(noise(), 4.0, by="lens", focal_length=300.0, f_number=1.0, focus=2.0)
    circle = 0.3**2 / (2 - 0.3) * 0.5 / 2 / 0.024 * HEIGHT
    np.testing.assert_allclose(wide, by_disc(noise(), min(circle, 40)), atol=1e-5)


def test_the_comps_camera_gives_the_focal_length():
    """An angle of view and a sensor are a focal length: h / 2 / tan(a / 2)."""
    angle = 0.16
    place = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0))
    camera = SceneCamera(
        name="eye", width=WIDTH, height=HEIGHT, rate="25", first=1, places=(place,), yfov=(angle,)
    )
    fields = {"by": "lens", "f_number": 1.4, "focus": 2.0}
    got = blurred(noise(), 9.0, cameras={"v1": camera}, **fields)
    np.testing.assert_allclose(
        got, blurred(noise(), 9.0, focal_length=12 / tan(angle / 2), **fields), atol=1e-5
    )
    with pytest.raises(ValueRefused, match=r"Layer quay.*Step Depth blur.*no camera"):
        blurred(noise(), 9.0, **fields)
    with pytest.raises(ValueRefused, match="cannot focus"):
        blurred(noise(), 9.0, by="lens", focal_length=500.0, focus=0.3)


@pytest.mark.parametrize("stored", ["distance", "inverse"])
@pytest.mark.parametrize("bad", [np.nan, np.inf, 0.0, -3.0])
def test_what_is_no_distance_is_infinitely_far(bad, stored):
    got = blurred(noise(), np.full((HEIGHT, WIDTH), bad, np.float32), stored=stored)
    np.testing.assert_allclose(got, by_disc(noise(), 8.0), atol=1e-5)


def test_a_depth_that_an_edge_has_mixed_is_that_of_the_nearer_surface():
    """Half of near and half of far would be in focus: a sharp line between two blurs."""
    left = np.arange(WIDTH) < WIDTH // 2
    rng = np.random.default_rng(5)
    picture = even(1, 1, 1, 1)
    picture[..., :3] = rng.random((HEIGHT, WIDTH, 1))
    clean = np.where(left, 1.0, 9.0).astype(np.float32)
    mixed = clean.copy()
    mixed[WIDTH // 2 - 1] = 2.0
    np.testing.assert_array_equal(blurred(picture, mixed), blurred(picture, clean))
    mixed[WIDTH // 2 - 1 : WIDTH // 2 + 1] = (2.0, 6.0)
    clean[WIDTH // 2] = 1.0
    np.testing.assert_array_equal(blurred(picture, mixed), blurred(picture, clean))


def test_what_is_cut_out_is_blurred_with_its_edge():
    """Over nothing: the disc of the premultiplied picture, whatever depth nothing has."""
    alpha = np.zeros((HEIGHT, WIDTH), np.float32)
    alpha[20:44, 30:66] = 1
    alpha = cv2.GaussianBlur(alpha, (0, 0), 0.45)
    picture = np.dstack([alpha * 0.8, alpha * 0.3, alpha * 0.1, alpha]).astype(np.float32)
    for depth in (1.0, 6.0):
        radius = abs(depth - 2) / depth * 8
        got = blurred(picture, np.where(alpha > 0.5, depth, 1e10).astype(np.float32))
        np.testing.assert_allclose(got, by_disc(picture, radius), atol=3e-3)


def test_at_a_level_it_is_the_whole_picture_halved():
    left = np.arange(WIDTH) < WIDTH // 2
    picture = by_disc(noise(), 2.0)
    whole, half = (blurred(picture, np.where(left, 1.0, 9.0), level=n) for n in (0, 1))
    shrunk = cv2.resize(whole, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA)
    assert np.abs(half - shrunk).mean() < 0.01


def test_circles_are_shown_before_and_behind_the_focus():
    left = np.arange(WIDTH) < WIDTH // 2
    got = blurred(even(0.4, 0.4, 0.4, 1), np.where(left, 1.0, 30.0), show="circles")
    assert got[0, 4, 0] > got[0, 4, 2] + 0.2
    assert got[0, -4, 2] > got[0, -4, 0] + 0.2
    np.testing.assert_allclose(blurred(even(0.4, 0.4, 0.4, 1), 2.0, show="circles"), even(0.4, 0.4, 0.4, 1))


def test_a_missing_depth_is_named():
    with pytest.raises(NameUnknown, match=r"Layer quay.*Step Depth blur.*no channel deep\.Z"):
        blurred(noise(), 1.0, depth="deep.Z")


def lens_of(focus, aperture):
    """Three boards one behind the other, seen by a lens and by a pinhole: rendered."""
    camera = {"azimuth": 0.0, "elevation": 0.0, "distance": 4.0}
    back, eye = scene_of(np.eye(3), (0, 0, -6.0), 16.0).nodes
    middle = scene_of(np.eye(3), (-0.4, 0.1, 0.0), 1.2).nodes[0]
    front = scene_of(np.eye(3), (0.5, -0.1, 1.5), 0.7).nodes[0]

    def glowing(node, name, light):
        mesh = node.meshes[0]
        material = replace(mesh.material, name=name, emission=(light,) * 3)
        return replace(node, name=name, meshes=(replace(mesh, material=material),))

    scene = Scene("s", (back, glowing(middle, "middle", 1.4), glowing(front, "front", 2.0), eye))
    row = {"placed_camera": camera, "samples": 1024}
    pinhole = render_frame(scene, setup(passes=["beauty", "depth"], **row), 1)
    lens = render_frame(scene, setup(depth_of_field={"distance": focus, "aperture": aperture}, **row), 1)
    angle = camera_of_manifest(manifest(scene, setup(**row), [1]), "s").yfov_at(1)
    # what a point infinitely far away spreads over, by the lens's diameter in the plane of focus
    return pinhole, lens, aperture / 2 / (2 * focus * tan(angle / 2)) * 90


@pytest.mark.parametrize("focus", [2.5, 4.0, 10.0])
def test_it_is_what_the_renderer_draws_with_a_lens(focus):
    """Mean within 1/255, and nearer than a blur by each pixel's own circle."""
    pinhole, truth, size = lens_of(focus, 0.16)
    rgba, expected = (np.stack([p[n] for n in "RGBA"], -1) for p in (pinhole, truth))
    got = blurred(rgba, pinhole["depth.Z"], focus=focus, size=size, largest=200.0)
    off = np.abs(got - expected)
    d = pinhole["depth.Z"]
    circles = size * np.abs(d - focus) / d
    radii = np.linspace(0, circles.max(), 24)
    stack = [by_disc(rgba, r) if r > 0.35 else rgba for r in radii]
    naive = np.take_along_axis(
        np.stack(stack), np.abs(circles[None] - radii[:, None, None]).argmin(0)[None, ..., None], 0
    )[0]
    assert off.mean() < 1 / 255
    assert np.quantile(off, 0.999) < np.quantile(np.abs(naive - expected), 0.999)


def test_on_plain_arrays_it_is_the_same():
    got = arrays.depth_blurred(noise(), np.full((HEIGHT, WIDTH), 4.0, np.float32))
    np.testing.assert_allclose(got, by_disc(noise(), 4.0), atol=2e-6)
    assert pattern().shape[2] == 4
