"""Colour steps: their formulas by other libraries, and what no colour step may do to alpha and light."""

import colorsys

import numpy as np
import pytest
import scipy.interpolate
import skimage.exposure
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step
from hypothesis import given
from hypothesis import strategies as st
from neatveil.colour import decode, encode

RNG = np.random.default_rng(5)
NOISE = opaque(RNG.random((9, 11, 3)))

#: One of each kind that changes colour by itself, far from rest.
COLOUR = [
    step("levels", in_black=0.1, in_white=0.8, gamma=1.4),
    step("levels", gamma=0.7, space="codes"),
    step("curve", points=((0.0, 0.1), (0.4, 0.2), (1.0, 0.9))),
    step("exposure", stops=1.5),
    step("tone", gain=(1.2, 0.9, 1.0), offset=(0.01, 0, -0.02), contrast=1.3, saturation=0.4),
    step("hue", rotation=75),
    step("clamp", low=0.1, high=0.6),
    step("invert"),
]
IDS = [f"{s.kind} {getattr(s, 'space', '')}" for s in COLOUR]


def test_levels_agree_with_scikit_image():
    """rescale_intensity and adjust_gamma, whose exponent is the inverse of ours."""
    x = NOISE[..., :3].astype(float)
    between = skimage.exposure.rescale_intensity(x, in_range=(0.2, 0.7), out_range=(0.0, 1.0))
    expected = skimage.exposure.adjust_gamma(np.clip(between, 0, 1), 1 / 1.8)
    got = done(NOISE, step("levels", in_black=0.2, in_white=0.7, gamma=1.8), step("clamp"))
    np.testing.assert_allclose(got[..., :3], expected, atol=3e-6)


def test_the_worked_example_in_code_values():
    """White 255 to 200, gamma 1.5, black untouched, on display codes (common practice, no source)."""
    codes = np.array([[0, 100, 200]]) / 255
    light = decode(codes.astype(np.float32), "srgb")
    got = done(opaque(np.dstack([light] * 3)), step("levels", in_white=200 / 255, gamma=1.5, space="codes"))
    back = encode(np.ascontiguousarray(got[..., 0]), "srgb") * 255
    np.testing.assert_allclose(back[0], [0, 255 * 0.5 ** (1 / 1.5), 255], atol=2e-3)
    assert np.rint(back[0]).tolist() == [0, 161, 255]


def test_a_curve_is_scipys_monotone_cubic():
    """SciPy's PchipInterpolator [FritschButland1984]; straight on beyond the ends."""
    points = ((0.0, 0.05), (0.25, 0.1), (0.5, 0.7), (0.6, 0.72), (1.0, 0.9))
    spline = scipy.interpolate.PchipInterpolator(*zip(*points, strict=True))
    got = done(NOISE, step("curve", points=points))
    np.testing.assert_allclose(got[..., :3], spline(NOISE[..., :3]), atol=2e-6)
    beyond = done(opaque(np.full((1, 1, 3), 3.0)), step("curve", points=points))[0, 0, 0]
    assert beyond == pytest.approx(0.9 + 2 * spline.derivative()(1.0), abs=1e-3)


def test_grade_in_its_stated_order():
    x = NOISE[..., :3].astype(float)
    y = (x * [1.2, 0.9, 1.0] + [0.01, 0, -0.02] - 0.18) * 1.3 + 0.18
    luma = y @ [0.2126, 0.7152, 0.0722]
    expected = luma[..., None] + 0.4 * (y - luma[..., None])
    np.testing.assert_allclose(done(NOISE, COLOUR[4])[..., :3], expected, atol=2e-6)


def test_a_stop_doubles_and_twelve_there_and_back_are_nothing():
    assert done(opaque(np.full((1, 1, 3), 0.25)), step("exposure", stops=2))[0, 0, 0] == 1
    back = done(NOISE, step("exposure", stops=12), step("exposure", stops=-12))
    np.testing.assert_array_equal(back, NOISE)


@pytest.mark.parametrize("rotation", [30, 120, 200])
def test_hue_turns_and_keeps_luma(rotation):
    """W3C Filter Effects, hueRotate; the hue by Python's colorsys turns roughly as far, greys stay."""
    got = done(NOISE, step("hue", rotation=rotation))
    weights = [0.213, 0.715, 0.072]
    # the standard gives its numbers to three places
    np.testing.assert_allclose(got[..., :3] @ weights, NOISE[..., :3] @ weights, atol=1e-3)
    grey = done(opaque(np.full((1, 1, 3), 0.4)), step("hue", rotation=rotation))
    np.testing.assert_allclose(grey[0, 0, :3], 0.4, atol=1e-3)
    before, after = (
        colorsys.rgb_to_hls(*p)[0] for p in ((0.5, 0.45, 0.45), _turned((0.5, 0.45, 0.45), rotation))
    )
    assert abs(((after - before) * 360 - rotation + 180) % 360 - 180) < 30


def _turned(rgb, rotation):
    return tuple(float(v) for v in done(opaque(np.array([[rgb]])), step("hue", rotation=rotation))[0, 0, :3])


@pytest.mark.parametrize("one", COLOUR, ids=IDS)
def test_colour_is_changed_under_the_alpha(one):
    """The surface's colour is what changes: the same through every alpha, and the alpha not by a bit."""
    rgba = premultiplied(soft_disc(colour=(0.7, 0.35, 0.2)))
    got = done(rgba, one)
    np.testing.assert_array_equal(got[..., 3], rgba[..., 3])
    solid = done(opaque(np.array([[(0.7, 0.35, 0.2)]])), one)[0, 0, :3]
    edge = rgba[..., 3] > 0.02
    np.testing.assert_allclose(
        got[edge][:, :3] / got[edge][:, 3:], np.broadcast_to(solid, (edge.sum(), 3)), atol=1e-5
    )
    assert not got[rgba[..., 3] == 0].any(), "nothing came in where there was nothing"


@pytest.mark.parametrize("one", COLOUR, ids=IDS)
def test_light_where_alpha_is_0_survives(one):
    glow = np.zeros((2, 3, 4), np.float32)
    glow[..., :3] = (0.5, 0.3, 0.2)
    got = done(glow, one)
    np.testing.assert_allclose(got[..., :3], done(opaque(glow[..., :3]), one)[..., :3], atol=2e-6)
    assert not got[..., 3].any()


@pytest.mark.parametrize("one", COLOUR, ids=IDS)
def test_off_and_no_mix_change_no_bit(one):
    rgba = premultiplied(soft_disc())
    assert done(rgba, one.model_copy(update={"mix": 0.0})).tobytes() == rgba.tobytes()


@given(mix=st.floats(0, 1, width=32))
def test_mix_is_linear(mix):
    rgba = premultiplied(soft_disc())
    full, part = done(rgba, COLOUR[0]), done(rgba, COLOUR[0].model_copy(update={"mix": mix}))
    np.testing.assert_allclose(part, rgba + mix * (full - rgba), atol=2e-6)


def test_a_run_is_its_steps_one_by_one():
    rgba = premultiplied(soft_disc())
    one_by_one = rgba
    for s in COLOUR:
        one_by_one = done(one_by_one, s)
    np.testing.assert_allclose(done(rgba, *COLOUR), one_by_one, atol=3e-6)


def test_on_premultiplied_shows_the_mistake():
    """A black point lifted on premultiplied pixels: the classic light fringe, and light where nothing is."""
    rgba = premultiplied(soft_disc())
    wrong = done(rgba, step("levels", out_black=0.2, on_premultiplied=True))
    assert wrong[rgba[..., 3] == 0][:, 0].min() == pytest.approx(0.2)
    assert not done(rgba, step("levels", out_black=0.2))[rgba[..., 3] == 0].any()


def test_one_channel_alone():
    got = done(NOISE, step("exposure", stops=1, channels="g"))
    np.testing.assert_array_equal(got[..., [0, 2, 3]], NOISE[..., [0, 2, 3]])
    np.testing.assert_allclose(got[..., 1], 2 * NOISE[..., 1])


def test_an_alpha_crushed_to_0_takes_its_colour_along():
    rgba = premultiplied(soft_disc())
    got = done(
        rgba, step("clamp", low=0.3, high=1.0, channels="a"), step("levels", in_black=0.3, channels="a")
    )
    assert not got[(got[..., 3] == 0)].any()


@pytest.mark.parametrize("by", ["alpha", "luma", "red", "green", "blue"])
def test_through_a_channel_of_its_own(by):
    rgba = premultiplied(soft_disc(colour=(0.9, 0.5, 0.2)))
    got = done(rgba, step("exposure", stops=1, through={"by": "channel", "channel": by}))
    weights = {"alpha": rgba[..., 3], "luma": rgba[..., :3] @ np.float32([0.2126, 0.7152, 0.0722])}
    w = weights.get(by, rgba[..., "rgb".index(by[0])] if by not in weights else None)
    np.testing.assert_allclose(got[..., :3], rgba[..., :3] * (1 + w[..., None]), atol=2e-6)
