"""Boxes as sets of pixels, and parts of pictures against NumPy's own slices."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.errors import ValueRefused
from neatveil.picture import RGBA, Box, PremultipliedPicture, cut, plane_over, whole_frame

edges = st.integers(-6, 12)


@st.composite
def boxes(draw):
    x0, y0 = draw(edges), draw(edges)
    return Box(x0, y0, x0 + draw(st.integers(1, 9)), y0 + draw(st.integers(1, 9)))


def pixels(box):
    return {(x, y) for x in range(box.x0, box.x1) for y in range(box.y0, box.y1)}


def picture(box, frame=None, seed=1):
    rng = np.random.default_rng(seed)
    planes = {n: rng.random((box.height, box.width), np.float32) for n in RGBA}
    return PremultipliedPicture(planes, box, frame or box)


@given(boxes(), boxes())
def test_boxes_meet_in_the_pixels_that_both_have(a, b):
    both = a.intersect(b)
    assert (set() if both.empty else pixels(both)) == pixels(a) & pixels(b)
    assert both.empty == (not pixels(a) & pixels(b))
    assert a.contains(b) == (pixels(b) <= pixels(a))


@given(boxes(), boxes())
def test_the_box_around_two_holds_both_and_is_the_least_that_does(a, b):
    around = a.around(b)
    assert pixels(a) | pixels(b) <= pixels(around)
    for change in ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, -1, 0), (0, 0, 0, -1)):
        smaller = Box(*(edge + by for edge, by in zip(around.as_list(), change, strict=True)))
        assert not pixels(a) | pixels(b) <= (set() if smaller.empty else pixels(smaller))


@given(boxes(), st.integers(0, 3))
def test_a_halved_box_touches_what_the_whole_one_does(box, times):
    """Python's floor division is that of the pixel grid: below 0 too."""
    n = 2**times
    assert pixels(box.halved(times)) == {(x // n, y // n) for x, y in pixels(box)}


@given(boxes(), st.integers(-9, 9), st.integers(-9, 9))
def test_a_moved_box_has_the_moved_pixels(box, dx, dy):
    assert pixels(box.shift(dx, dy)) == {(x + dx, y + dy) for x, y in pixels(box)}


@given(boxes(), boxes())
def test_a_part_has_the_pictures_values_and_nothing_beyond(own, area):
    given_picture = picture(own)
    got = cut(given_picture, area)
    assert (got.data_window, got.display_window) == (area, given_picture.display_window)
    for n in RGBA:
        for x, y in pixels(area):
            there = own.x0 <= x < own.x1 and own.y0 <= y < own.y1
            expected = given_picture[n][y - own.y0, x - own.x0] if there else 0
            assert got[n][y - area.y0, x - area.x0] == expected


@given(boxes(), boxes())
def test_a_plane_over_an_area_is_the_same_plane_there(own, area):
    given_picture = picture(own)
    np.testing.assert_array_equal(plane_over(given_picture["R"], own, area), cut(given_picture, area)["R"])


@given(boxes(), boxes())
def test_the_whole_frame_and_back_again(own, frame):
    within = own.intersect(frame)
    if within.empty:
        return
    part = picture(within, frame)
    whole = whole_frame(part)
    assert whole.data_window == frame
    for n in RGBA:
        np.testing.assert_array_equal(cut(whole, within)[n], part[n])
        assert np.abs(whole[n]).sum() == pytest.approx(np.abs(part[n]).sum(), rel=1e-5)


def test_parts_are_not_the_pictures_own_memory_where_they_differ():
    """Pictures are not changed: what is cut from one may be written to only where it is a copy."""
    own = Box(0, 0, 8, 8)
    given_picture = picture(own)
    before = given_picture["R"].tobytes()
    cut(given_picture, Box(2, 2, 6, 6))["R"][:] = 9
    plane_over(given_picture["R"], own, Box(-1, 0, 9, 9))[:] = 9
    assert given_picture["R"].tobytes() == before


@pytest.mark.parametrize("value", [np.nan, np.inf, -np.inf])
@pytest.mark.parametrize("name", RGBA)
def test_one_value_that_is_no_number_is_found(value, name):
    planes = {n: np.full((300, 400), 0.5, np.float32) for n in RGBA}
    assert PremultipliedPicture(planes).finite()
    planes[name] = planes[name].copy()
    planes[name][299, 399] = value
    assert not PremultipliedPicture(planes).finite()


def test_planes_of_another_size_or_type_are_refused():
    plane = np.zeros((4, 5), np.float32)
    with pytest.raises(ValueRefused, match=r"Plane A is float32 \(4, 6\); expected float32 \(4, 5\)"):
        PremultipliedPicture({"R": plane, "A": np.zeros((4, 6), np.float32)})
    with pytest.raises(ValueRefused, match="Plane R is float64"):
        PremultipliedPicture({"R": np.zeros((4, 5))})


def test_pixels_side_by_side_are_made_once_and_counted():
    box = Box(0, 0, 6, 4)
    given_picture = picture(box)
    before = given_picture.bytes
    side = given_picture.interleaved()
    np.testing.assert_array_equal(side, np.dstack([given_picture[n] for n in RGBA]))
    assert given_picture.interleaved() is side
    assert given_picture.bytes == before + side.nbytes
    np.testing.assert_array_equal(PremultipliedPicture.from_rgba(side).rgba(), side)
