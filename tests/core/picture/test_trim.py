"""Empty borders are left out, and nothing else."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.picture import RGBA, Box, PremultipliedPicture, trimmed, whole_frame


def spots(height, width, points):
    planes = {n: np.zeros((height, width), np.float32) for n in RGBA}
    for name, y, x in points:
        planes[name][y % height, x % width] = -0.25
    return PremultipliedPicture(planes)


@given(
    st.integers(1, 40), st.integers(1, 40),
    st.lists(st.tuples(st.sampled_from(RGBA), st.integers(0, 39), st.integers(0, 39)), max_size=6),
)  # fmt: skip
def test_the_whole_frame_is_the_same(height, width, points):
    before = spots(height, width, points)
    after = trimmed(before)
    assert after.display_window == before.display_window
    for n in RGBA:
        np.testing.assert_array_equal(whole_frame(after)[n], before[n])


def test_only_the_spot_is_kept_glow_without_alpha_too():
    got = trimmed(spots(50, 80, [("A", 10, 20), ("R", 12, 31)]))
    assert got.data_window == Box(20, 10, 32, 13)


def test_a_data_plane_counts():
    picture = spots(50, 80, [("A", 10, 20)])
    depth = np.full((50, 80), 7, np.float32)
    whole = PremultipliedPicture({**picture.planes, "depth.Z": depth}, data_planes=["depth.Z"])
    assert trimmed(whole) is whole


@pytest.mark.parametrize("edge", [0, 1])
def test_little_to_gain_is_not_worth_a_copy(edge):
    planes = {n: np.ones((100, 100), np.float32) for n in RGBA}
    for plane in planes.values():
        plane[:, : edge * 3] = 0
    picture = PremultipliedPicture(planes)
    assert trimmed(picture) is picture
