"""Every operator laid onto the pile itself gives what it gives beside it; fronts narrower than the back."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.merge import OPERATORS, merge_planes
from neatveil.picture import RGBA

MIXES = (0.0, 0.25, 1.0)


def planes(seed, height=9, width=13, least=0.0):
    """Premultiplied, with clear and solid pixels, light beyond alpha and values above 1."""
    rng = np.random.default_rng(seed)
    alpha = np.clip(rng.normal(0.5, 0.6, (height, width)), least, 1).astype(np.float32)
    colour = {n: (rng.random((height, width)) * 1.5).astype(np.float32) * alpha for n in "RGB"}
    light = rng.random((height, width)) < 0.1
    for n in "RGB":
        colour[n][light & (alpha == 0)] = 0.4
    return {**colour, "A": alpha}


def copied(some):
    return {n: p.copy() for n, p in some.items()}


@pytest.mark.parametrize("mix", MIXES)
@pytest.mark.parametrize("name", list(OPERATORS))
def test_onto_the_back_is_as_beside_it(name, mix):
    front, back = planes(1), planes(2)
    beside, onto = copied(back), copied(back)
    given_front = {n: p.tobytes() for n, p in front.items()}
    merge_planes(name, front, back, beside, mix)
    merge_planes(name, front, onto, onto, mix)
    for n in RGBA:
        np.testing.assert_array_equal(onto[n], beside[n], err_msg=n)
        assert front[n].tobytes() == given_front[n], "the front is not written to"


@pytest.mark.parametrize("name", [n for n in OPERATORS if n != "divide"])
def test_no_strength_leaves_the_back(name):
    front, back = planes(3), planes(4)
    out = copied(back)
    merge_planes(name, front, back, out, 0.0)
    for n in RGBA:
        np.testing.assert_allclose(out[n], back[n], atol=1e-6)


@pytest.mark.parametrize("name", list(OPERATORS))
def test_part_of_an_operator_lies_between_the_back_and_all_of_it(name):
    front, back = planes(5, least=0.1), planes(6, least=0.1)
    full, part = copied(back), copied(back)
    merge_planes(name, front, back, full, 1.0)
    merge_planes(name, front, back, part, 0.25)
    for n in RGBA:
        np.testing.assert_allclose(part[n], back[n] + 0.25 * (full[n] - back[n]), atol=2e-5, rtol=1e-5)


@pytest.mark.parametrize("name", ["hue", "saturation", "color", "luminosity"])
@pytest.mark.parametrize("grey", [0.5, 1.0, 1.2, 40.0, -0.25])
def test_greys_above_white_and_below_black_stay_numbers(name, grey):
    """Of two greys the front's light or the back's is left, as within 0..1."""
    front, back = ({n: np.full((2, 3), v, np.float32) for n in "RGB"} for v in (grey, 0.75))
    for some in (front, back):
        some["A"] = np.ones((2, 3), np.float32)
    out = copied(back)
    merge_planes(name, front, back, out, 1.0)
    for n in "RGB":
        np.testing.assert_allclose(out[n], grey if name == "luminosity" else 0.75, rtol=1e-5)


@given(st.integers(0, 12), st.integers(1, 13), st.sampled_from(MIXES), st.booleans())
def test_a_narrow_front_is_laid_on_its_columns_alone(x0, width, mix, onto):
    width = min(width, 13 - x0)
    if width <= 0:
        return
    front, back = planes(7, width=width), planes(8)
    out = copied(back)
    under = out if onto else back
    merge_planes("over", front, under, out, mix, x0)
    k = 1 - front["A"] * np.float32(mix)
    for n in RGBA:
        expected = back[n].copy()
        expected[:, x0 : x0 + width] = front[n] * np.float32(mix) + expected[:, x0 : x0 + width] * k
        np.testing.assert_allclose(out[n], expected, atol=1e-6)
