"""A picture on a UV pass: against SciPy, OpenCV, supersampling, and the pass renderer's textures."""

import cv2
import numpy as np
import pytest
import scipy.ndimage as ndi
from core.reference.pictures import Arrays
from core.scene.test_cards import pattern, scene_of
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.comp import Comp, Element, Layer
from neatveil.errors import NameUnknown, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.picture import frame_pyramid as frame_pyramid_file
from neatveil.scene.frames import render_frame
from neatveil.scene.setup import parse_setup
from scipy.spatial.transform import Rotation
from skimage.data import stereo_motorcycle

MODES = {"wrap": "grid-wrap", "mirror": "reflect", "clamp": "nearest", "clear": "constant"}
OPENCV = {
    "wrap": cv2.BORDER_WRAP, "mirror": cv2.BORDER_REFLECT, "clamp": cv2.BORDER_REPLICATE,
    "clear": cv2.BORDER_CONSTANT,
}  # fmt: skip


def art(width=24, height=17, seed=1):
    rgba = np.random.default_rng(seed).random((height, width, 4)).astype(np.float32)
    rgba[..., :3] *= rgba[..., 3:]
    return rgba


def places(width=40, height=30, seed=2, spread=2.4):
    """Places of a smooth map that reaches beyond 0..1 on every side."""
    y, x = np.mgrid[:height, :width] / np.array([height, width])[:, None, None]
    luck = np.random.default_rng(seed).random(4)
    u = spread * (x - 0.5) + 0.5 + 0.1 * np.sin(7 * y + luck[0])
    v = spread * (y - 0.5) + 0.5 + 0.1 * np.cos(5 * x + luck[1])
    return np.stack([u, v], -1).astype(np.float32)


@pytest.mark.parametrize("beyond", MODES)
def test_unfiltered_it_is_the_remap_of_scipy_and_of_opencv(beyond):
    picture, uv = art(), places()
    got = arrays.uv_mapped(picture, uv, filtered=False, between="linear", beyond=beyond)
    height, width = picture.shape[:2]
    x, y = uv[..., 0] * width - 0.5, uv[..., 1] * height - 0.5
    for c in range(4):
        # SciPy blends with nothing only beyond its own border, so a clear one is given
        padded, by = (np.pad(picture[..., c], 3), 3) if beyond == "clear" else (picture[..., c], 0)
        found = ndi.map_coordinates(padded, [y + by, x + by], order=1, mode=MODES[beyond])
        np.testing.assert_allclose(got[..., c], found, atol=1e-4)
    found = cv2.remap(picture, x, y, cv2.INTER_LINEAR, borderMode=OPENCV[beyond])
    np.testing.assert_allclose(got, found, atol=1e-4)


@given(st.sampled_from(sorted(MODES)), st.integers(0, 99))
def test_filtered_but_not_made_smaller_it_is_the_same(beyond, seed):
    uv = places(seed=seed, width=160, height=120)
    picture = art(width=16, height=12)
    plain = arrays.uv_mapped(picture, uv, filtered=False, between="linear", beyond=beyond)
    by = arrays.uv_mapped(picture, uv, filtered=True, between="linear", beyond=beyond)
    np.testing.assert_allclose(by, plain, atol=2e-4)


def test_enlarged_by_catmull_rom_a_ramp_stays_a_ramp():
    """Keys 1981: the cubic with a = -1/2 keeps polynomials of the second degree."""
    ramp = np.ones((8, 32, 4), np.float32)
    ramp[..., 0] = (np.arange(32) / 40) ** 2
    u = np.linspace(0.2, 0.8, 200, dtype=np.float32)
    uv = np.stack([u, np.full_like(u, 0.5)], -1)[None]
    got = arrays.uv_mapped(ramp, uv, filtered=False, between="cubic")
    np.testing.assert_allclose(got[0, :, 0], ((u * 32 - 0.5) / 40) ** 2, atol=1e-4)


def zone_plate(size):
    y, x = (np.mgrid[:size, :size] + 0.5) / size - 0.5
    grey = 0.5 + 0.5 * np.cos(np.pi * size * 0.9 * (x * x + y * y))
    return np.repeat(np.stack([grey, grey, grey, np.ones_like(grey)], -1)[..., :], 1, 0).astype(np.float32)


def decibels(got, truth):
    return -10 * np.log10(((got - truth)[..., 0] ** 2).mean())


def test_a_zone_plate_seen_small_in_perspective_is_12_decibels_nearer_to_the_truth():
    """The truth: 16 x 16 unfiltered samples a pixel."""
    plate, size = zone_plate(512), (96, 64)

    def seen(scale):
        width, height = size[0] * scale, size[1] * scale
        y, x = (np.mgrid[:height, :width] + 0.5) / scale
        depth = 1 + 2.5 * y / size[1]  # a floor that runs away
        u, v = 0.5 + (x / size[0] - 0.5) * 0.9 * depth / 3.5 * 1.8, 0.05 + 0.9 * y / size[1]
        return np.stack([u, v], -1).astype(np.float32)

    fine = arrays.uv_mapped(plate, seen(16), filtered=False, between="linear", beyond="clamp")
    truth = fine.reshape(size[1], 16, size[0], 16, 4).mean((1, 3))
    naive = arrays.uv_mapped(plate, seen(1), filtered=False, between="linear", beyond="clamp")
    filtered = arrays.uv_mapped(plate, seen(1), filtered=True, beyond="clamp")
    assert decibels(filtered, truth) - decibels(naive, truth) > 12


def test_a_stereo_pair_is_remapped_from_one_eye_to_the_other():
    """Middlebury 2014, Motorcycle, with its published disparity (Scharstein et al. 2014), in scikit-image."""
    left, right, disparity = stereo_motorcycle()
    height, width = disparity.shape
    known = np.isfinite(disparity)
    y, x = np.mgrid[:height, :width].astype(np.float32)
    # what the left eye sees at x the right one sees further left by the disparity
    uv = np.stack([(x - np.where(known, disparity, np.nan) + 0.5) / width, (y + 0.5) / height], -1)
    source = np.dstack([right / 255.0, np.ones((height, width))]).astype(np.float32)
    got = arrays.uv_mapped(source, uv.astype(np.float32), beyond="clamp")
    off = np.abs(got[..., :3] - left / 255.0).mean(-1)
    naive = np.abs(right / 255.0 - left / 255.0).mean(-1)
    assert np.median(off[known]) < 0.02 < np.median(naive[known])
    assert not got[~known].any(), "what is not known is not seen"


def comp_of(uv, alpha, picture, level=0, extra=(), own_colour=(0, 0, 0), **fields):
    """A layer that carries a UV pass, with a picture on it."""
    height, width = alpha.shape
    own = np.zeros((height, width, 4), np.float32)
    own[..., :3], own[..., 3] = np.array(own_colour) * alpha[..., None], alpha
    stored = {"own": [own], "art": [picture]}
    planes = {"own": {"uv.U": uv[..., 0], "uv.V": uv[..., 1], **dict(extra)}}
    premultiplied = {"alpha": "premultiplied"}
    given = {n: Element(file=n, still=True, encoding="linear", reading=premultiplied) for n in stored}
    step = {"kind": "uv_map", "second": "art", "laid": "alone", **fields}
    layer = Layer(id="a", name="sign", element="own", steps=[step])
    comp = Comp(width=width, height=height, elements=given, layers=(layer,))
    return Evaluator(Arrays(stored, planes)).picture(comp, 1, level=level).rgba()


@pytest.mark.parametrize("border", [0, 5])
def test_a_still_pictures_pyramid_is_made_for_two_frames_and_not_for_more(border, monkeypatch):
    """The map moves; unfiltered and filtered ask in turn, and of a picture that has empty borders too."""
    sign, own = np.pad(art(30, 20), ((border, border), (border, border), (0, 0))), np.ones((30, 40, 4))
    u, v = (places(spread=3)[..., c] for c in (0, 1))
    made, build = [], frame_pyramid_file.pyramid_of
    monkeypatch.setattr(frame_pyramid_file, "pyramid_of", lambda *a: made.append(1) or build(*a))
    decoder = Arrays({"own": [own], "art": [sign]}, {"own": {"uv.U": u, "uv.V": v}})
    still = {"still": True, "encoding": "linear", "reading": {"alpha": "premultiplied"}}
    elements = {n: Element(file=n, **still) for n in ("own", "art")}

    def shown(evaluator, frame, filtering):
        step = {"kind": "uv_map", "second": "art", "filtering": filtering, "offset_u": frame / 10}
        layer = Layer(id="a", name="sign", element="own", steps=[step])
        comp = Comp(width=40, height=30, last=6, elements=elements, layers=(layer,))
        return evaluator.picture(comp, frame).rgba()

    kept = Evaluator(decoder)
    for frame in range(1, 7):
        for filtering in (False, True):
            now, afresh = shown(kept, frame, filtering), shown(Evaluator(decoder), frame, filtering)
            np.testing.assert_array_equal(now, afresh)
    assert len(made) - 12 == 2  # each fresh evaluator makes its own


def test_the_step_is_the_function_cut_by_the_alpha():
    uv, alpha = places(spread=0.8), np.clip(art(40, 30, 5)[..., 3] * 3, 0, 1)
    alpha[5:20, 5:30] = 1
    got = comp_of(uv, alpha, art())
    np.testing.assert_allclose(got, arrays.uv_mapped(art(), uv, alpha), atol=1e-5)


@pytest.mark.parametrize(
    ("fields", "moved"),
    [
        ({"flip_u": True}, lambda p: p[:, ::-1]),
        ({"flip_v": True}, lambda p: p[::-1]),
        ({"turned": "90"}, lambda p: np.rot90(p, -1)),
        ({"turned": "180"}, lambda p: np.rot90(p, 2)),
        ({"turned": "270"}, lambda p: np.rot90(p)),
        ({"swap": True}, lambda p: p.transpose(1, 0, 2)),
        ({"offset_u": 0.25}, lambda p: np.roll(p, -6, 1)),
        ({"scale_u": 2.0}, lambda p: np.tile(p, (1, 2, 1))),
    ],
)
def test_nudges_are_those_of_the_picture(fields, moved):
    uv, alpha = places(spread=0.8), np.ones((30, 40), np.float32)
    plain = {"filtering": False, "between": "linear"}
    got = comp_of(uv, alpha, art(), **plain, **fields)
    expected = comp_of(uv, alpha, np.ascontiguousarray(moved(art())), **plain)
    np.testing.assert_allclose(got, expected, atol=1e-4)


def setup(**fields):
    base = {"width": 160, "height": 90, "samples": 256, "rate": "25", "passes": ["beauty", "uv"]}
    return parse_setup({**base, "placed_camera": {"azimuth": 0, "elevation": 0, "distance": 4.0}, **fields})


@pytest.mark.parametrize("turn", [0.0, 40.0, 72.0])
def test_artwork_put_on_afterwards_is_what_the_renderer_draws(turn):
    """Mean within 1/255, and inside the edge the 99.9th percentile within 4/255."""
    scene = scene_of(Rotation.from_euler("Y", turn, degrees=True).as_matrix(), (0.1, 0, 0), 2.4)
    found = render_frame(scene, setup(), 1)
    truth = np.stack([found[n] for n in "RGBA"], -1)
    uv = np.stack([found["uv.U"], found["uv.V"]], -1)
    got = comp_of(uv, found["A"], pattern(), beyond="clamp")
    off = np.abs(got - truth)
    assert off.mean() < 1 / 255
    whole = cv2.erode(truth[..., 3], np.ones((5, 5))) == 1
    assert np.quantile(off[whole], 0.999) < 4 / 255
    np.testing.assert_allclose(got[..., 3], truth[..., 3], atol=1e-5)


def test_a_uv_pass_that_is_mixed_at_the_edge_gives_the_edge_of_one_that_is_not():
    """Anti-aliased as colour is: places times alpha; the naive look-up drags in the picture's corner."""
    scene = scene_of(np.eye(3), (0.1, 0.05, 0), 2.4)
    found = render_frame(scene, setup(), 1)
    alpha = found["A"]
    uv = np.stack([found["uv.U"], found["uv.V"]], -1)
    mixed = np.where((alpha < 1)[..., None], uv * alpha[..., None], uv)
    picture = pattern()
    picture[:8, :8, :3] = (5, 0, 0)  # what a wrong place near 0, 0 would show
    clean = comp_of(uv, alpha, picture, beyond="clamp")
    np.testing.assert_allclose(comp_of(mixed, alpha, picture, beyond="clamp"), clean, atol=2e-2)
    naive = arrays.uv_mapped(picture, mixed, filtered=False, beyond="clamp") * alpha[..., None]
    assert np.abs(naive - clean).max() > 0.5


def test_no_smear_across_a_jump_with_or_without_ids():
    """Two boards side by side, each with a map of its own: nothing of what lies between the maps."""
    uv = np.zeros((20, 64, 2), np.float32)
    uv[..., 1] = 0.5
    uv[:, :32, 0] = np.linspace(0.0, 0.2, 32)
    uv[:, 32:, 0] = np.linspace(0.8, 1.0, 32)
    picture = np.zeros((4, 400, 4), np.float32)
    picture[..., 3] = 1
    picture[:, 100:300, 0] = 1  # red is only between the two
    alpha = np.ones((20, 64), np.float32)
    ids = np.repeat([[1.0] * 32 + [2.0] * 32], 20, 0).astype(np.float32)
    for fields in ({}, {"surfaces": "id.X", "extra": {"id.X": ids}}):
        assert comp_of(uv, alpha, picture, beyond="clamp", **fields)[..., 0].max() == 0


def test_at_a_level_it_is_the_whole_picture_halved():
    scene = scene_of(Rotation.from_euler("Y", 30, degrees=True).as_matrix(), (0, 0, 0), 2.4)
    found = render_frame(scene, setup(), 1)
    uv = np.stack([found["uv.U"], found["uv.V"]], -1)
    whole, half = (comp_of(uv, found["A"], pattern(), level=n, beyond="clamp") for n in (0, 1))
    shrunk = cv2.resize(whole, (80, 45), interpolation=cv2.INTER_AREA)
    assert np.abs(half - shrunk).mean() < 0.004


def test_laid_over_the_edge_counts_once():
    """An opaque picture that covers what the layer does leaves its alpha, and nothing of its colour."""
    uv = places(spread=0.8)
    away = np.hypot(*(np.mgrid[:30, :40] - np.array([15, 20])[:, None, None]))
    alpha = np.clip((16 - away) / 6, 0, 1).astype(np.float32)
    opaque = art()
    opaque[..., 3] = 1
    own = {"own_colour": (0.0, 5.0, 0.0)}
    over = comp_of(uv, alpha, opaque, laid="over", between="linear", **own)
    alone = comp_of(uv, alpha, opaque, laid="alone", between="linear", **own)
    np.testing.assert_allclose(over[..., 3], alpha, atol=1e-5)
    np.testing.assert_allclose(over, alone, atol=1e-5)
    half = np.where(np.arange(40) < 20, alpha / 2, 0).astype(np.float32)
    part = comp_of(uv, alpha, opaque, laid="over", coverage="mask.1", extra={"mask.1": half}, **own)
    np.testing.assert_allclose(part[..., 3], alpha, atol=1e-5)
    np.testing.assert_allclose(
        part[:, 20:], np.stack([0 * alpha, 5 * alpha, 0 * alpha, alpha], -1)[:, 20:], atol=1e-5
    )


@pytest.mark.parametrize("bad", [np.nan, np.inf, -np.inf, 1e30])
def test_what_is_no_place_shows_nothing(bad):
    uv, alpha = places(spread=0.8), np.ones((30, 40), np.float32)
    uv[10:14, 10:14] = bad
    got = comp_of(uv, alpha, art())
    assert np.isfinite(got).all()
    assert not got[10:14, 10:14].any()
    assert got[12, 30, 3] > 0


def test_a_missing_pass_is_named_and_no_picture_leaves_the_layer():
    uv, alpha = places(spread=0.8), np.ones((30, 40), np.float32)
    with pytest.raises(NameUnknown, match=r"Layer sign.*Step UV map.*no channel st\.X"):
        comp_of(uv, alpha, art(), u="st.X")
    with pytest.raises(NeatVeilError, match="Layer sign"):
        comp_of(uv, alpha, art(), second="layer:gone")
    assert comp_of(uv, alpha, art(), second="", laid="over")[..., 3].min() == 1
    assert not comp_of(uv, alpha, art(), second="").any()
