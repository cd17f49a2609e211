"""Comps of any layers, against the same pile made slowly with NumPy: whole frames, one after another.

The evaluator lays strips in place, leaves out what a layer does not reach, does steps strip by strip and lays
groups by themselves. None of that may show.
"""

import numpy as np
import pytest
from core.evaluate.test_draw import ELEMENTS, comp, drawn, files
from core.pictures import premultiplied
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.merge import OPERATORS
from neatveil.merge.operators import merge_values
from neatveil.picture import Box
from PIL import Image

__all__ = ["files"]

HEIGHT, WIDTH = 210, 330
GAIN = 2**0.5
INVERT = {"kind": "invert", "channels": "rgb"}
EXPOSE = {"kind": "exposure", "stops": 0.5}
ALPHA = {"kind": "exposure", "stops": -1, "channels": "a"}

layers = st.fixed_dictionaries({
    "element": st.sampled_from(ELEMENTS),
    # a division by next to nothing is anything in float32
    "operator": st.sampled_from([n for n in OPERATORS if n not in {"divide", "color-dodge", "color-burn"}]),
    "opacity": st.sampled_from([1.0, 0.75, 0.25]),
    "transform": st.fixed_dictionaries({"x": st.integers(-200, 200), "y": st.integers(-150, 150)}),
    "steps": st.lists(st.sampled_from([INVERT, EXPOSE, ALPHA]), max_size=3),
    "shown": st.sampled_from([True, True, True, False]),
})  # fmt: skip


def stored(files, name):
    codes = np.asarray(Image.open(files / f"{name}.png"), np.float32) / 255
    if codes.shape[2] == 3:
        codes = np.dstack([codes, np.ones(codes.shape[:2], np.float32)])
    return premultiplied(codes)


def slow(files, rows):
    """Every layer on a frame of its own, then merged over all of it, in double precision where it may be."""
    pile = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    for row in rows:
        if row["shown"]:
            front = stepped(stored(files, row["element"]), row["steps"])
            result = merge_values(row["operator"], placed(front, row["transform"]), pile)
            pile = pile + np.float32(row["opacity"]) * (result - pile)
    return pile


def stepped(rgba, steps):
    for step in steps:
        alpha = rgba[..., 3:]
        solid = alpha > 0
        straight = np.divide(rgba[..., :3], alpha, out=rgba[..., :3].copy(), where=solid)
        now = alpha
        if step is INVERT:
            straight = np.where(solid, 1 - straight, 0)
        elif step is EXPOSE:
            straight = straight * np.float32(GAIN)
        else:
            now = alpha / 2
        rgba = np.concatenate([straight * np.where(solid, now, 1), now], axis=-1).astype(np.float32)
    return rgba


def placed(rgba, place):
    """On whole pixels, odd leftovers right and down; nothing beyond."""
    height, width = rgba.shape[:2]
    x0, y0 = (WIDTH - width) // 2 + place["x"], (HEIGHT - height) // 2 + place["y"]
    out = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    both = Box(x0, y0, x0 + width, y0 + height).intersect(Box.sized(WIDTH, HEIGHT))
    if not both.empty:
        out[both.y0 : both.y1, both.x0 : both.x1] = rgba[
            both.y0 - y0 : both.y1 - y0, both.x0 - x0 : both.x1 - x0
        ]
    return out


many = settings(
    max_examples=40, deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)  # fmt: skip


@many
@given(st.lists(layers, min_size=1, max_size=5))
def test_any_pile_is_what_numpy_makes_of_it(files, rows):
    got = Evaluator(LocalDecoder()).picture(comp(files, *rows), 1).rgba()
    np.testing.assert_allclose(got, slow(files, rows), atol=2e-4, rtol=2e-4)


@many
@given(
    st.lists(layers, min_size=1, max_size=4),
    st.integers(0, 300), st.integers(0, 180), st.integers(1, 330), st.integers(1, 210),
)  # fmt: skip
def test_a_part_of_it_and_what_is_drawn_are_the_same(files, rows, x, y, width, height):
    document = comp(files, *rows)
    region = Box(x, y, min(WIDTH, x + width), min(HEIGHT, y + height))
    evaluator = Evaluator(LocalDecoder())
    whole = evaluator.picture(document, 1).rgba()[region.y0 : region.y1, region.x0 : region.x1]
    part = Evaluator(LocalDecoder()).picture(document, 1, region=region).rgba()
    np.testing.assert_allclose(part, whole, atol=1e-6)
    np.testing.assert_allclose(drawn(evaluator, document, region), whole, atol=1e-6)


@many
@given(st.lists(layers, min_size=2, max_size=4), st.data())
def test_what_is_kept_from_before_does_not_show(files, rows, data):
    """One change after another on one evaluator gives what a fresh one would."""
    kept = Evaluator(LocalDecoder())
    for _ in range(3):
        at = data.draw(st.integers(0, len(rows) - 1))
        rows = [*rows[:at], data.draw(layers), *rows[at + 1 :]]
        document = comp(files, *rows)
        fresh = Evaluator(LocalDecoder()).picture(document, 1).rgba()
        np.testing.assert_allclose(drawn(kept, document), fresh, atol=1e-6)
        np.testing.assert_array_equal(kept.picture(document, 1).rgba(), fresh)


@many
@given(st.lists(layers, min_size=1, max_size=3), st.lists(layers, min_size=1, max_size=3))
def test_a_group_is_its_members_laid_over_nothing_and_then_over_the_rest(files, behind, members):
    rows = [{"id": f"m{i}", "name": f"m{i}", **m} for i, m in enumerate(members)]
    document = comp(files, *behind, {"kind": "group", "layers": rows})
    got = Evaluator(LocalDecoder()).picture(document, 1).rgba()
    back, group = slow(files, behind), slow(files, members)
    expected = group + back * (1 - group[..., 3:])
    if not any(m["shown"] for m in members):
        expected = back
    np.testing.assert_allclose(got, expected, atol=3e-4, rtol=3e-4)


@pytest.mark.parametrize("name", sorted(OPERATORS))
def test_every_operator_alone_over_nothing(files, name):
    """The first layer of a pile meets a clear picture: by its own formula, not simply laid down."""
    row = {"element": "strap", "operator": name, "opacity": 1.0, "transform": {"x": 0, "y": 0}, "steps": []}
    got = Evaluator(LocalDecoder()).picture(comp(files, row), 1).rgba()
    front = placed(stored(files, "strap"), row["transform"])
    expected = merge_values(name, front, np.zeros_like(front))
    np.testing.assert_allclose(got, expected, atol=1e-6)
