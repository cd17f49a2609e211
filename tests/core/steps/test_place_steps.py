"""Transforms against SciPy, shapes against areas, and what comes back as it was."""

import cv2
import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step
from neatveil.drawn.shapes import shape_weights
from neatveil.picture import Box

DISC = premultiplied(soft_disc(60, 80))
SMOOTH = ndi.gaussian_filter(np.random.default_rng(1).random((60, 80, 4)), (3, 3, 0)).astype(np.float32)


@pytest.mark.parametrize(
    ("x", "y", "rotation", "scale"), [(3.5, -2.25, 0, 1), (0, 0, 30, 1), (5, 4, -17, 1.3), (0, 0, 0, 0.8)]
)
def test_a_transform_agrees_with_scipy(x, y, rotation, scale):
    """affine_transform, order 3, away from the border: the cubic differs, smooth pictures do not."""
    angle = np.radians(rotation)
    turned = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]]) * scale
    back = np.linalg.inv(turned)
    middle = np.array([39.5, 29.5])
    offset = middle - back @ np.add(middle, (x, y))
    # SciPy counts rows first
    expected = ndi.affine_transform(SMOOTH[..., 1].astype(float), back[::-1, ::-1], offset[::-1], order=3)
    got = done(SMOOTH, step("transform", x=x, y=y, rotation=rotation, scale=scale))[..., 1]
    inner = ndi.affine_transform(np.ones((60, 80)), back[::-1, ::-1], offset[::-1], order=1) > 0.999
    inner = ndi.binary_erosion(inner, iterations=3)
    np.testing.assert_allclose(got[inner], expected[inner], atol=2e-3)


@pytest.mark.parametrize("how", ["nearest", "linear", "cubic", "lanczos"])
def test_whole_pixels_are_moved_exactly_and_back(how):
    there = done(DISC, step("transform", x=7, y=-3, filter=how))
    np.testing.assert_array_equal(there[:-3, 7:], DISC[3:, :-7])
    back = done(DISC, step("transform", x=7, y=-3, filter=how), step("transform", x=-7, y=3, filter=how))
    np.testing.assert_array_equal(back[5:-5, 10:-10], DISC[5:-5, 10:-10])


def test_a_quarter_turn_is_numpys():
    square = SMOOTH[:60, :60]
    np.testing.assert_allclose(done(square, step("transform", rotation=90)), np.rot90(square, -1), atol=1e-6)


@pytest.mark.parametrize("how", ["nearest", "linear", "cubic", "lanczos"])
@pytest.mark.parametrize("rotation", [3, 17, 45.5])
def test_an_opaque_picture_stays_opaque_when_it_is_turned(how, rotation):
    moved = done(np.ones((60, 80, 4)), step("transform", rotation=rotation, x=0.37, y=1.21, filter=how))
    assert (moved[20:40, 30:50, 3] == 1).all()


def test_one_channel_moves_and_the_others_stay():
    got = done(DISC, step("transform", x=2, channels="r"))
    np.testing.assert_array_equal(got[..., 1:], DISC[..., 1:])
    np.testing.assert_array_equal(got[:, 2:, 0], DISC[:, :-2, 0])


def test_made_much_smaller_it_keeps_its_mean():
    fine = opaque(np.tile(np.array([[0.0, 1.0], [1.0, 0.0]]), (32, 40))[..., None].repeat(3, -1))
    got = done(fine, step("transform", scale=0.2, filter="linear"))
    np.testing.assert_allclose(got[28:36, 36:44, 0], 0.5, atol=0.01)


def test_the_anchor_stays():
    dot = np.zeros((61, 81, 4), np.float32)
    dot[30 + 10, 40 - 20] = 1
    got = done(dot, step("transform", rotation=137, scale=1.0, anchor_x=-20, anchor_y=10, filter="linear"))
    np.testing.assert_allclose(got[40, 20], dot[40, 20], atol=0.02)


def test_blurred_by_its_own_motion():
    """16 px in one frame, shutter half open: a dot becomes a line of 8 px with the same sum."""
    dot = np.zeros((20, 60, 4), np.float32)
    dot[10, 30] = 1
    keys = {"x": {"keys": [{"frame": 1, "value": 0, "way": "linear"}, {"frame": 3, "value": 32}]}}
    one = step("transform", keys=keys, shutter=0.5, samples=64, filter="linear")
    got = done(dot, one.at(2))
    assert got[..., 0].sum() == pytest.approx(1, abs=1e-3)
    row = got[10, :, 0]
    assert np.flatnonzero(row > 0.01).tolist() == list(range(42, 51))
    assert (row * np.arange(60)).sum() == pytest.approx(46, abs=0.05)


def test_still_moments_are_sharp():
    keys = {"x": {"keys": [{"frame": 1, "value": 5}, {"frame": 9, "value": 5}]}}
    moving = done(DISC, step("transform", keys=keys, shutter=0.5).at(4))
    np.testing.assert_array_equal(moving, done(DISC, step("transform", x=5)))


def test_a_corner_pin_is_opencvs_perspective():
    corners = {"top_left": (5, 3), "top_right": (-8, 2), "bottom_right": (-2, -9), "bottom_left": (4, -1)}
    rest = np.float32([[0, 0], [80, 0], [80, 60], [0, 60]])
    matrix = cv2.getPerspectiveTransform(rest, rest + np.float32(list(corners.values())))
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    expected = cv2.warpPerspective(
        SMOOTH, np.linalg.inv(half) @ matrix @ half, (80, 60), flags=cv2.INTER_LINEAR
    )
    got = done(SMOOTH, step("corner_pin", filter="linear", **corners))
    np.testing.assert_allclose(got, expected, atol=2e-3)


def test_corners_folded_over_leave_the_picture():
    np.testing.assert_array_equal(done(DISC, step("corner_pin", top_left=(200, 200))), DISC)


@pytest.mark.parametrize(("across", "down"), [(True, False), (False, True), (True, True)])
def test_flips_twice_are_none(across, down):
    flip = step("flip", across=across, down=down)
    expected = DISC[:: -1 if down else 1, :: -1 if across else 1]
    np.testing.assert_array_equal(done(DISC, flip), expected)
    np.testing.assert_array_equal(done(DISC, flip, flip), DISC)


def test_crop_keeps_its_share_of_a_pixel():
    got = done(opaque(np.ones((10, 20, 3))), step("crop", left=2.25, top=1, right=3))
    np.testing.assert_allclose(got[5, :4, 3], [0, 0, 0.75, 1])
    assert got[..., 3].sum() == pytest.approx((20 - 5.25) * 9)


def test_tiles_meet_and_mirrored_ones_are_mirrors():
    got = done(SMOOTH, step("tile", columns=2, rows=2))
    np.testing.assert_array_equal(got[:30, :40], got[30:, 40:])
    turned = done(SMOOTH, step("tile", columns=2, rows=2, mirrored=True))
    np.testing.assert_array_equal(turned[:, :40], turned[:, :39:-1])
    np.testing.assert_array_equal(turned[:30], turned[:29:-1])


@pytest.mark.parametrize("soft", [1, 6, 20])
@pytest.mark.parametrize("rotation", [0, 33])
def test_the_weights_of_a_shape_add_up_to_its_area(soft, rotation):
    area = Box.sized(200, 200)
    whole = shape_weights("ellipse", (3.3, -1.2), (90, 60), rotation, soft, area, (200, 200), 0).sum()
    # Steiner: an outline moved by d adds perimeter * d + pi d^2; the ramp spreads d by w^2 / 20
    spread = max(soft, 1) ** 2 / 20
    assert whole == pytest.approx(np.pi * (45 * 30 + spread), rel=0.002)
    flat = shape_weights("rectangle", (3.3, -1.2), (90, 60), rotation, soft, area, (200, 200), 0).sum()
    # inwards its corners stay square
    assert flat == pytest.approx(90 * 60 + (np.pi + 4) / 2 * spread, rel=0.002)


def test_a_shape_at_a_level_is_the_same_shape():
    full = shape_weights("ellipse", (10, 4), (120, 80), 20, 12, Box.sized(200, 160), (200, 160), 0)
    half = shape_weights("ellipse", (10, 4), (120, 80), 20, 12, Box.sized(100, 80), (100, 80), 1)
    np.testing.assert_allclose(half, cv2.resize(full, (100, 80), interpolation=cv2.INTER_AREA), atol=0.02)


def test_falloff_takes_colour_and_alpha_together():
    got = done(opaque(np.full((60, 80, 3), 0.5)), step("falloff", width=40, height=30, soft=10))
    assert got[30, 40].tolist() == [0.5, 0.5, 0.5, 1]
    assert not got[0, 0].any()
    edge = (got[..., 3] > 0.05) & (got[..., 3] < 0.95)
    np.testing.assert_allclose(got[edge][:, 0], 0.5 * got[edge][:, 3], atol=1e-6)
