"""Soft and hard ellipses and rectangles as coverage, against plain counting of points."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from neatveil.drawn.shapes import shape_weights
from neatveil.picture import Box

OVER = 40


def counted(shape, centre, size, turn, width, height):
    """The share of ``OVER`` x ``OVER`` points of every pixel that lie within the shape."""
    steps = (np.arange(OVER) + 0.5) / OVER
    x = (np.arange(width)[:, None] + steps).ravel() - width / 2 - centre[0]
    y = (np.arange(height)[:, None] + steps).ravel() - height / 2 - centre[1]
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    u, v = c * x[None] + s * y[:, None], c * y[:, None] - s * x[None]
    a, b = size[0] / 2, size[1] / 2
    inside = (u / a) ** 2 + (v / b) ** 2 <= 1 if shape == "ellipse" else (abs(u) <= a) & (abs(v) <= b)
    return inside.reshape(height, OVER, width, OVER).mean((1, 3))


@settings(max_examples=40)
@given(
    st.sampled_from(["ellipse", "rectangle"]), st.floats(-4, 4), st.floats(-4, 4), st.floats(0.8, 22),
    st.floats(0.8, 22), st.floats(-90, 90),
)  # fmt: skip
def test_a_hard_edge_is_area_coverage_within_a_hundredth(shape, x, y, width, height, turn):
    got = shape_weights(shape, (x, y), (width, height), turn, 0, Box.sized(26, 24), (26, 24), 0)
    expected = counted(shape, (x, y), (width, height), turn, 26, 24)
    # counting is good to a point in each direction along the outline
    assert np.abs(got - expected).max() < 0.01 + 1 / OVER


@pytest.mark.parametrize("size", [(7.3, 4.6), (1.2, 0.9), (0.4, 11.0), (15.0, 15.0)])
def test_areas_are_those_of_geometry(size):
    a, b = size
    for turn in (0, 17, 45, 90):
        box = Box.sized(30, 30)
        ellipse = shape_weights("ellipse", (0.3, -0.7), size, turn, 0, box, (30, 30), 0)
        assert ellipse.sum() == pytest.approx(np.pi * a * b / 4, rel=0.004)
        rectangle = shape_weights("rectangle", (0.3, -0.7), size, turn, 0, box, (30, 30), 0)
        assert rectangle.sum() == pytest.approx(a * b, rel=1e-4)


@pytest.mark.parametrize("shape", ["ellipse", "rectangle"])
def test_softness_below_a_pixel_changes_gradually(shape):
    rows = [
        shape_weights(shape, (0.2, 0.1), (12, 9), 20, s, Box.sized(20, 20), (20, 20), 0)
        for s in np.linspace(0, 1.2, 13)
    ]
    for one, next_one in pairwise(rows):
        assert np.abs(one - next_one).max() < 0.03


def test_a_part_is_the_same_part_of_the_whole():
    whole = shape_weights("ellipse", (3, 1), (17, 11), 30, 0, Box.sized(30, 24), (30, 24), 0)
    part = shape_weights("ellipse", (3, 1), (17, 11), 30, 0, Box(9, 5, 28, 19), (30, 24), 0)
    np.testing.assert_allclose(part, whole[5:19, 9:28], atol=1e-6)
