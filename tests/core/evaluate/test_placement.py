"""Where a layer lies: against matrices written out by hand and OpenCV's own picture of a point."""

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp import Transform
from neatveil.evaluate.halve import halve
from neatveil.evaluate.placement import place_rows, placement_of
from neatveil.picture import RGBA, Box, PremultipliedPicture, new_planes, whole_frame

COMP, LAYER = (640, 480), (101, 60)


def laid(transform: Transform, picture: PremultipliedPicture, comp=COMP, level: int = 0) -> np.ndarray:
    window = picture.display_window
    area = Box.sized(*comp).halved(level)
    out = new_planes(RGBA, area.height, area.width)
    place_rows(picture, placement_of(transform, comp, (window.width, window.height), level), area, out)
    return np.stack([out[n] for n in RGBA], axis=-1)


def dot(width: int = 101, height: int = 60, x: int = 50, y: int = 30) -> PremultipliedPicture:
    rgba = np.zeros((height, width, 4), np.float32)
    rgba[y, x] = 1
    return PremultipliedPicture.from_rgba(rgba)


@given(st.integers(-300, 300), st.integers(-300, 300))
def test_whole_moves_are_exact_copies(x, y):
    how = placement_of(Transform(x=x, y=y), COMP, LAYER, 0)
    assert how.whole_shift == ((640 - 101) // 2 + x, (480 - 60) // 2 + y)


def test_a_dot_lands_where_geometry_says():
    """Scale about the layer's centre, turn clockwise (y is down), then move."""
    place = Transform(x=40, y=-25, scale=2, rotation=90, filter="linear")
    got = laid(place, dot(x=60))
    height, width = np.indices(got.shape[:2])
    weight = got[..., 3].astype(float)
    centre = [(c * weight).sum() / weight.sum() + 0.5 for c in (width, height)]
    # from the layer's centre (50.5, 30) the dot lies at (10, 0.5); clockwise 90: (-0.5, 10); times 2
    rest = ((640 - 101) // 2 + 50.5, (480 - 60) // 2 + 30)
    assert centre == pytest.approx([rest[0] + 40 - 1, rest[1] - 25 + 20], abs=0.02)
    assert weight.sum() == pytest.approx(4, rel=0.02), "twice as large each way"


def test_matrix_maps_as_opencv_says():
    how = placement_of(Transform(x=3.25, y=-8, scale=0.8, rotation=33), COMP, LAYER, 0)
    centre = ((640 - 101) // 2 + 50.5 + 3.25, (480 - 60) // 2 + 30 - 8.0)
    theirs = cv2.getRotationMatrix2D((0, 0), -33, 0.8)  # positive is anticlockwise there
    forward = theirs[:, :2]
    for point in ([0.0, 0.0], [101.0, 0.0], [20.0, 59.0]):
        comp = forward @ (np.array(point) - [50.5, 30]) + centre
        level = 2.0**how.source_level
        np.testing.assert_allclose((how.matrix @ [*comp, 1])[:2] * level, point, atol=1e-9)


@pytest.mark.parametrize(
    ("scale", "level", "wanted"), [(1, 0, 0), (1, 2, 2), (0.5, 0, 1), (0.3, 0, 1), (4, 2, 0)]
)
def test_source_level_is_the_nearest_below(scale, level, wanted):
    assert placement_of(Transform(scale=scale), COMP, LAYER, level).source_level == wanted


def test_nothing_lies_outside_what_it_covers():
    place = Transform(x=-90, y=70, scale=1.7, rotation=-41)
    full = PremultipliedPicture.from_rgba(np.ones((60, 101, 4), np.float32))
    got = laid(place, full)
    reach = placement_of(place, COMP, LAYER, 0).covers(full.data_window)
    inside = np.zeros(got.shape[:2], bool)
    inside[max(0, reach.y0) : reach.y1, max(0, reach.x0) : reach.x1] = True
    assert got[~inside].max(initial=0) == 0
    assert got[inside].max() == pytest.approx(1, abs=1e-5)


@given(st.integers(-9, 9), st.integers(-9, 9), st.integers(1, 7), st.integers(1, 7))
def test_halving_keeps_the_light_of_any_window(x, y, width, height):
    """The mean of 2 x 2 pixels, nothing outside: a quarter of the sum, wherever the window begins."""
    rgba = np.random.default_rng(width * 8 + height).random((height, width, 4), np.float32)
    planes = {n: np.ascontiguousarray(rgba[..., i]) for i, n in enumerate(RGBA)}
    window = Box.sized(width, height).shift(x, y)
    small = halve(PremultipliedPicture(planes, window, Box(-20, -20, 20, 20)))
    assert small.data_window == window.halved(1)
    for i, n in enumerate(RGBA):
        assert small[n].sum() * 4 == pytest.approx(rgba[..., i].sum(), rel=1e-5)


def test_the_whole_frame_is_filled_up_with_nothing_and_cut_at_its_edge():
    planes = {n: np.ones((4, 6), np.float32) for n in RGBA}
    got = whole_frame(PremultipliedPicture(planes, Box(-2, 1, 4, 5), Box.sized(8, 4)))
    assert got.data_window == Box.sized(8, 4)
    expected = np.zeros((4, 8))
    expected[1:4, 0:4] = 1
    np.testing.assert_array_equal(got["A"], expected)
