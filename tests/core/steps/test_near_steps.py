"""Blur, morphology, sharpening, median: against SciPy; edges extended; borders."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step, windowed
from neatveil import arrays
from neatveil.picture import whole_frame
from neatveil.steps.apply import apply_steps

DISC = premultiplied(soft_disc(60, 72))
NOISE = np.random.default_rng(7).random((40, 50, 4)).astype(np.float32)


@pytest.mark.parametrize("sigma", [0.4, 1.0, 2.5, 6.3])
@pytest.mark.parametrize("border", ["continue", "clear"])
def test_gaussian_agrees_with_scipy(sigma, border):
    """Sampled kernel, cut at four standard deviations."""
    mode = {"continue": "nearest", "clear": "constant"}[border]
    radius = int(np.ceil(4 * sigma))
    got = done(NOISE, step("blur", size=sigma, border=border))
    for i in range(4):
        expected = ndi.gaussian_filter(NOISE[..., i].astype(float), sigma, mode=mode, radius=radius)
        np.testing.assert_allclose(got[..., i], expected, atol=2e-6)


def test_gaussian_along_one_axis():
    got = done(NOISE, step("blur", size=2, axes="across"))
    expected = ndi.gaussian_filter1d(NOISE[..., 1].astype(float), 2, axis=1, mode="nearest", radius=8)
    np.testing.assert_allclose(got[..., 1], expected, atol=2e-6)


def test_a_box_of_whole_pixels_is_scipys_uniform_filter():
    got = done(NOISE, step("blur", kernel="box", size=2.5))
    np.testing.assert_allclose(
        got[..., 0], ndi.uniform_filter(NOISE[..., 0].astype(float), 5, mode="nearest"), atol=2e-6
    )


@pytest.mark.parametrize("kernel", ["gaussian", "box", "disc"])
@pytest.mark.parametrize("size", [0.3, 1.7, 5.2])
def test_blur_spreads_and_keeps_the_sum(kernel, size):
    point = np.zeros((61, 61, 4), np.float32)
    point[30, 30] = 1
    got = done(point, step("blur", kernel=kernel, size=size))
    assert got[..., 0].sum() == pytest.approx(1, abs=1e-5)
    y, x = np.mgrid[-30:31, -30:31]
    spread = (got[..., 3] * (x**2 + y**2)).sum()
    # second moments: 2 s^2 of a Gaussian, 2 w^2 / 12 of a box, r^2 / 2 of a disc; a pixel's own is in them
    expected = {"gaussian": 2 * size**2, "box": (2 * size) ** 2 / 6, "disc": size**2 / 2}[kernel]
    assert spread == pytest.approx(expected, abs=0.35)


@pytest.mark.parametrize("radius", [1, 2, 3, 5, -1, -2, -4])
def test_grow_and_shrink_agree_with_scipy(radius):
    y, x = np.mgrid[-abs(radius) : abs(radius) + 1, -abs(radius) : abs(radius) + 1]
    disc = x * x + y * y <= radius * radius
    work = ndi.grey_dilation if radius > 0 else ndi.grey_erosion
    got = done(DISC, step("grow_shrink", size=radius))[..., 3]
    np.testing.assert_array_equal(got, work(DISC[..., 3], footprint=disc, mode="nearest"))


def test_half_a_pixel_is_halfway():
    two, three = (done(DISC, step("grow_shrink", size=r))[..., 3] for r in (2, 3))
    np.testing.assert_allclose(
        done(DISC, step("grow_shrink", size=2.5))[..., 3], (two + three) / 2, atol=1e-6
    )
    areas = [done(DISC, step("grow_shrink", size=r))[..., 3].sum() for r in (-1, -0.6, -0.1, 0.2, 0.8, 1.4)]
    assert areas == sorted(areas)


def test_the_array_face_grows():
    alpha = np.ascontiguousarray(DISC[..., 3])
    np.testing.assert_array_equal(
        arrays.grow_shrink(alpha, 2), done(DISC, step("grow_shrink", size=2))[..., 3]
    )


@pytest.mark.parametrize("one", [step("grow_shrink", size=4), step("blur", size=3, channels="a")])
def test_a_grown_alpha_finds_the_surfaces_colour(one):
    """No dark fringe: the colour was taken past the edge before."""
    rgba = premultiplied(soft_disc(60, 72, colour=(0.8, 0.4, 0.1)))
    got = done(rgba, one)
    edge = got[..., 3] > 0.02
    np.testing.assert_allclose(
        got[edge][:, :3] / got[edge][:, 3:], np.broadcast_to((0.8, 0.4, 0.1), (edge.sum(), 3)), atol=1e-4
    )
    assert edge.sum() > (rgba[..., 3] > 0.02).sum()


def test_light_stays_when_the_alpha_grows():
    rgba = DISC.copy()
    rgba[2, 2, :3] = 5
    assert done(rgba, step("grow_shrink", size=2))[2, 2, 0] == 5


def test_extend_gives_the_edge_the_insides_colour():
    straight = soft_disc(60, 72, colour=(0.2, 0.6, 0.3))
    straight[straight[..., 3] < 0.9, :3] = (1, 0, 0)  # a red fringe
    rgba = premultiplied(straight)
    got = done(rgba, step("extend", inside=0.9))
    np.testing.assert_array_equal(got[..., 3], rgba[..., 3])
    edge = (rgba[..., 3] > 0.01) & (rgba[..., 3] < 0.9)
    np.testing.assert_allclose(
        got[edge][:, :3] / got[edge][:, 3:], np.broadcast_to((0.2, 0.6, 0.3), (edge.sum(), 3)), atol=2e-3
    )


def test_sharpening_is_the_blur_taken_away():
    got = done(NOISE, step("sharpen", size=1.5, amount=0.8, channels="rgba"))
    given = NOISE.astype(float)
    soft = ndi.gaussian_filter(given, (1.5, 1.5, 0), mode="nearest", radius=(6, 6, 0))
    sharp = given + 0.8 * (given - soft)
    # alpha is coverage: above 1 it becomes 1 and its straight colour stays
    expected = sharp / np.maximum(sharp[..., 3:], 1)
    expected[..., 3] = np.maximum(expected[..., 3], 0)
    np.testing.assert_allclose(got, expected, atol=4e-6)


@pytest.mark.parametrize("size", [1, 2])
def test_median_agrees_with_scipy(size):
    got = done(NOISE, step("median", size=size))[..., 2]
    np.testing.assert_array_equal(got, ndi.median_filter(NOISE[..., 2], 2 * size + 1, mode="nearest"))


def test_only_red_is_blurred():
    got = done(NOISE, step("blur", size=2, channels="r"))
    np.testing.assert_array_equal(got[..., 1:], NOISE[..., 1:])
    assert np.abs(got[..., 0] - NOISE[..., 0]).max() > 0.1


def test_what_lies_in_a_smaller_window_is_blurred_out_of_it():
    whole = np.zeros((40, 60, 4), np.float32)
    whole[10:20, 25:45] = NOISE[:10, :20]
    small = windowed(NOISE[:10, :20], (25, 10), (60, 40))
    blur = step("blur", size=1.5)
    got = whole_frame(apply_steps(small, [blur], 0, 1)).rgba()
    np.testing.assert_allclose(got, done(whole, blur), atol=1e-6)


def test_at_a_level_a_length_is_as_much_shorter():
    """A blur of 4 px drawn at half size is one of 2 px there."""
    half = done(NOISE, step("blur", size=4), level=1)
    np.testing.assert_allclose(half, done(NOISE, step("blur", size=2)), atol=1e-6)


def test_on_straight_brings_in_what_lies_beyond():
    straight = soft_disc(60, 72, colour=(0.8, 0.4, 0.1))
    rgba = premultiplied(straight)
    wrong, right = (done(rgba, step("blur", size=3, on_straight=on)) for on in (True, False))
    edge = (right[..., 3] > 0.1) & (right[..., 3] < 0.5)
    red = lambda p: (p[edge][:, 0] / p[edge][:, 3]).mean()  # noqa: E731
    assert red(right) == pytest.approx(0.8, abs=1e-3)
    assert red(wrong) < 0.7


def test_through_an_ellipse_keeps_the_middle_sharp():
    rgba = opaque(np.random.default_rng(2).random((80, 80, 3)))
    shape = {"by": "ellipse", "width": 40, "height": 40, "soft": 4, "inverted": True}
    got = done(rgba, step("blur", size=3, through=shape))
    np.testing.assert_array_equal(got[35:45, 35:45], rgba[35:45, 35:45])
    np.testing.assert_allclose(got[:5], done(rgba, step("blur", size=3))[:5], atol=1e-6)


def test_nan_and_infinity_do_not_spread():
    rgba = NOISE.copy()
    rgba[20, 20, 0], rgba[5, 5, 1] = np.nan, np.inf
    got = done(rgba, step("blur", size=2))
    assert np.isfinite(got).all()
