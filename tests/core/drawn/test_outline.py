"""Outlines and strokes against analytic areas and distances, and against Skia's rendering."""

import numpy as np
import pytest
import skia
from hypothesis import given
from hypothesis import strategies as st
from neatveil.drawn.outline import coverage, flattened, soft_outline
from neatveil.drawn.strokes import Stroke, painted
from pydantic import ValidationError

#: Handle length by which four cubics come nearest to a circle of radius 1; error 2.7e-4 (Goldapp 1991,
#: from memory).
KAPPA = 0.5522847498


def circle(x, y, r):
    k = r * KAPPA
    return np.array([
        [x + r, y, 0, -k, 0, k], [x, y + r, k, 0, -k, 0], [x - r, y, 0, k, 0, -k], [x, y - r, -k, 0, k, 0],
    ])  # fmt: skip


def skia_coverage(points, height, width):
    """Skia's own filling of the same curves, anti-aliased, at eight times the size."""
    over = 8
    path = skia.Path()
    path.moveTo(*(points[0, :2] * over))
    for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
        path.cubicTo(*((a[:2] + a[4:6]) * over), *((b[:2] + b[2:4]) * over), *(b[:2] * over))
    surface = skia.Surface(width * over, height * over)
    with surface as canvas:
        canvas.drawPath(path, skia.Paint(AntiAlias=True, Color=skia.ColorWHITE))
    grey = surface.toarray()[..., 3].astype(np.float32) / 255
    return grey.reshape(height, over, width, over).mean((1, 3))


def test_a_circles_area_and_every_pixel_of_it():
    got = coverage([flattened(circle(30.3, 25.8, 17.6))], 52, 61)
    assert got.sum() == pytest.approx(np.pi * 17.6**2, rel=2e-3)
    # quarter rows at eight times the size: theirs is good to a thirty-second
    np.testing.assert_allclose(got, skia_coverage(circle(30.3, 25.8, 17.6), 52, 61), atol=1 / 32)


@given(st.lists(st.tuples(st.floats(4, 60), *[st.floats(-4, 4)] * 4), min_size=3, max_size=9))
def test_any_simple_outline_as_a_vector_library_fills_it(rows):
    """Round a centre, so that it does not cross itself; within the frame or beyond it."""
    turns = np.arange(len(rows)) * 2 * np.pi / len(rows)
    points = np.array(
        [[30 + r * np.cos(t), 24 + r * np.sin(t), *h] for (r, *h), t in zip(rows, turns, strict=True)]
    )
    got, theirs = coverage([flattened(points)], 48, 60), skia_coverage(points, 48, 60)
    assert np.abs(got - theirs).mean() < 0.002
    assert np.quantile(np.abs(got - theirs), 0.99) < 0.06


@given(st.lists(st.tuples(*[st.floats(-10, 70)] * 2, *[st.floats(-25, 25)] * 4), min_size=3, max_size=6))
def test_an_outline_that_crosses_itself_as_a_vector_library_fills_it(rows):
    """Only pixels that hold parts wound about in both ways at once are filled less than theirs."""
    points = np.array(rows)
    got, theirs = coverage([flattened(points)], 48, 60), skia_coverage(points, 48, 60)
    assert np.mean(np.abs(got - theirs) > 0.1) < 0.04
    assert np.mean(np.abs(got - theirs)) < 0.012


def test_a_rectangle_is_exact_to_the_last_fraction():
    corners = np.array([[2.25, 3.5], [9.75, 3.5], [9.75, 7.25], [2.25, 7.25]])
    got = coverage([corners], 10, 12)
    assert got.sum() == pytest.approx(7.5 * 3.75, abs=1e-5)
    assert got[3, 2] == pytest.approx(0.75 * 0.5, abs=1e-6)
    assert got[5, 5] == 1
    assert got[8, 5] == 0


def test_what_lies_beyond_the_frame_is_cut_off_not_folded_in():
    corners = np.array([[-40.0, -30], [4, -30], [4, 90], [-40, 90]])
    np.testing.assert_allclose(coverage([corners], 8, 8), np.repeat([[1.0] * 4 + [0.0] * 4], 8, 0), atol=1e-6)
    assert coverage([corners + 500], 8, 8).max() == 0


def test_a_soft_edge_fades_by_the_distance_on_either_side():
    points = circle(40, 40, 20)
    got = soft_outline(points, 6, 10, 80, 80)
    y, x = np.mgrid[:80, :80] + 0.5
    distance = np.hypot(x - 40, y - 40) - 20
    t = np.clip((10 - distance) / 16, 0, 1)
    np.testing.assert_allclose(got, t * t * (3 - 2 * t), atol=0.01)


@pytest.mark.parametrize("points", [[], [[5, 5, 0, 0, 0, 0]], [[5, 5, 0, 0, 0, 0], [9, 9, 0, 0, 0, 0]]])
def test_too_few_points_hold_nothing(points):
    assert soft_outline(np.array(points).reshape(-1, 6), 0, 3, 12, 12).max() == 0


def test_both_loops_of_an_eight_are_filled():
    eight = np.array([[10, 10, 0, 0, 0, 0], [50, 40, 0, 0, 0, 0], [50, 10, 0, 0, 0, 0], [10, 40, 0, 0, 0, 0]])
    got = coverage([flattened(eight.astype(float))], 50, 60)
    assert got[25, 14] == 1
    assert got[25, 46] == 1


def test_a_stroke_is_as_wide_as_it_says_and_rounded():
    grey, cover = painted([Stroke(points=(-20, 0, 20, 0), size=10, soft=0)], 40, 80, 0)
    assert cover.sum() == pytest.approx(40 * 10 + np.pi * 25, rel=0.01)
    np.testing.assert_array_equal(grey, cover)
    half, _ = painted([Stroke(points=(-20, 0, 20, 0), size=10, soft=0)], 20, 40, 1)
    assert half.sum() * 4 == pytest.approx(cover.sum(), rel=0.05)


def test_later_strokes_cover_and_erase_earlier_ones():
    line = Stroke(points=(-20, 0, 20, 0), size=10, soft=0)
    grey, cover = painted([line, line.model_copy(update={"value": 0.25})], 40, 80, 0)
    assert (grey[20, 40], cover[20, 40]) == (0.25, 1)
    grey, cover = painted([line, Stroke(points=(0, 0), size=6, soft=0, erase=True)], 40, 80, 0)
    assert (grey[20, 40], cover[20, 40]) == (0, 0)
    assert cover[20, 55] == 1


def test_ten_thousand_strokes_are_laid():
    rng = np.random.default_rng(2)
    strokes = [Stroke(points=tuple(rng.uniform(-90, 90, 6)), size=4) for _ in range(10000)]
    grey, cover = painted(strokes, 180, 180, 0)
    assert cover.min() >= 0
    assert grey.max() <= 1.0001


@pytest.mark.parametrize(("change", "told"), [
    ({"points": (1, 2, 3)}, "left over"), ({"points": (1e7, 0)}, "million"),
    ({"first": 4, "last": 2}, "before"),
])  # fmt: skip
def test_a_stroke_that_is_none_is_refused(change, told):
    with pytest.raises(ValidationError, match=told):
        Stroke(**{"points": (0, 0), **change})
