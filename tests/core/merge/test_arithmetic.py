"""The plain arithmetic operators, on floats beyond 0..1, and what the table promises of each operator."""

import numpy as np
import pytest
from core.pictures import premultiplied, rgba_arrays, soft_disc
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.errors import ValueRefused
from neatveil.merge import merge_planes
from neatveil.picture import RGBA

FRONT = np.array([[[0.5, -1.0, 4.0, 0.5], [0.0, 0.0, 0.0, 0.0]]], np.float32)
BACK = np.array([[[0.25, 3.0, 2.0, 1.0], [0.5, 0.5, 0.5, 1.0]]], np.float32)

#: Colour of both pixels, and the alpha that the operator states: of `over`, or the same arithmetic.
EXPECTED = {
    "add": [[[0.75, 2.0, 6.0, 1.0], [0.5, 0.5, 0.5, 1.0]]],
    "subtract": [[[-0.25, 4.0, -2.0, 1.0], [0.5, 0.5, 0.5, 1.0]]],
    "divide": [[[0.5, -3.0, 0.5, 1.0], [0, 0, 0, 1.0]]],
    "min": [[[0.25, -1.0, 2.0, 0.5], [0, 0, 0, 0]]],
    "max": [[[0.5, 3.0, 4.0, 1.0], [0.5, 0.5, 0.5, 1.0]]],
    "average": (FRONT + BACK) / 2,
}


@pytest.mark.parametrize("name", EXPECTED)
def test_colour_is_unclamped_and_alpha_is_what_the_operator_states(name):
    np.testing.assert_allclose(arrays.merge(name, FRONT, BACK), EXPECTED[name], atol=1e-7)


def test_every_operator_of_the_table_is_tested_somewhere():
    families = {o.family for o in arrays.operators().values()}
    assert families == {"coverage", "blend", "arithmetic"}
    assert {n for n, o in arrays.operators().items() if o.family == "arithmetic"} == set(EXPECTED)


@pytest.mark.parametrize("name", arrays.operators())
def test_nothing_in_front_changes_nothing_unless_the_table_says_so(name):
    """The evaluator skips rows where a layer is not, on the strength of this."""
    back = premultiplied(soft_disc())
    result = arrays.merge(name, np.zeros_like(back), back)
    same = np.allclose(result, back, atol=1e-7)
    assert same or arrays.operators()[name].touches_outside, "it is changed, and the table denies it"


@pytest.mark.parametrize("name", arrays.operators())
@pytest.mark.parametrize("mix", [0.0, 0.35, 1.0])
def test_planes_and_pixels_agree(name, mix):
    """The evaluator's way (planes, in place) and the array face give the same."""
    front, back = premultiplied(soft_disc()), premultiplied(np.roll(soft_disc(colour=(0.1, 0.6, 0.9)), 7, 1))
    planes = [{n: np.ascontiguousarray(p[..., i]) for i, n in enumerate(RGBA)} for p in (front, back)]
    merge_planes(name, planes[0], planes[1], planes[1], mix)
    got = np.stack([planes[1][n] for n in RGBA], axis=-1)
    np.testing.assert_allclose(got, arrays.merge(name, front, back, mix), atol=2e-6)


@given(
    st.sampled_from(sorted(arrays.operators())), st.floats(0, 1, width=32),
    rgba_arrays(1, 3), rgba_arrays(1, 3),
)  # fmt: skip
def test_no_operator_makes_an_alpha_beyond_0_to_1(name, mix, front, back):
    height, width = (min(a, b) for a, b in zip(front.shape[:2], back.shape[:2], strict=True))
    front, back = (premultiplied(some[:height, :width]) for some in (front, back))
    alpha = arrays.merge(name, front, back, mix)[..., 3]
    assert alpha.min() >= 0
    assert alpha.max() <= 1 + 1e-6


@pytest.mark.parametrize("name", arrays.operators())
@pytest.mark.parametrize("mix", [0.25, 1.0])
@pytest.mark.parametrize("shape", [(1, 1), (1, 5), (5, 1), (3, 4)])
def test_every_size_is_merged_pixel_by_pixel_and_nothing_that_is_given_is_written_to(name, mix, shape):
    random = np.random.default_rng(7)
    front, back = (premultiplied(random.random((*shape, 4)).astype(np.float32)) for _ in range(2))
    kept = front.copy(), back.copy()
    got = arrays.merge(name, front, back, mix)
    np.testing.assert_array_equal(front, kept[0])
    np.testing.assert_array_equal(back, kept[1])
    large = [np.tile(some, (4, 4, 1)) for some in (front, back)]
    whole = arrays.merge(name, *large, mix)[: shape[0], : shape[1]]
    np.testing.assert_allclose(got, whole, atol=2e-6)


@pytest.mark.parametrize("name", arrays.operators())
def test_doubles_are_converted_and_nothing_at_all_gives_nothing(name):
    doubles = FRONT.astype(np.float64), BACK.astype(np.float64)
    np.testing.assert_array_equal(arrays.merge(name, *doubles), arrays.merge(name, FRONT, BACK))
    for shape in ((0, 5, 4), (5, 0, 4), (0, 0, 4)):
        empty = np.zeros(shape, np.float32)
        assert arrays.merge(name, empty, empty).shape == shape


EMPTY = np.zeros((0, 3, 4), np.float32)


@pytest.mark.parametrize("call", [
    arrays.premultiply, arrays.unpremultiply, arrays.levels, arrays.despill, arrays.luma,
])  # fmt: skip
def test_every_function_takes_doubles_and_arrays_without_pixels(call):
    assert call(EMPTY).size == 0
    np.testing.assert_allclose(call(FRONT.astype(np.float64)), call(FRONT), atol=1e-6)


def test_mattes_of_nothing_and_what_is_not_taken():
    assert arrays.difference_key(EMPTY).shape == (0, 3)
    assert arrays.grow_shrink(EMPTY[..., 3], 2).shape == (0, 3)
    with pytest.raises(ValueRefused, match="at least one pixel"):
        arrays.suggest_reading(EMPTY)
    with pytest.raises(ValueRefused, match="Scale whole numbers"):
        arrays.premultiply(np.zeros((2, 2, 4), np.uint8))
    with pytest.raises(ValueRefused, match=r"expected floating point \(H, W, 3 or 4\)"):
        arrays.despill(np.zeros((2, 2), np.float32))


@pytest.mark.parametrize("name", arrays.operators())
def test_mix_0_is_the_back(name):
    np.testing.assert_allclose(arrays.merge(name, FRONT, BACK, 0.0), BACK, atol=1e-7)


def test_out_takes_the_result_and_is_checked():
    out = np.empty_like(FRONT)
    assert arrays.merge("over", FRONT, BACK, out=out) is out
    np.testing.assert_array_equal(out, arrays.merge("over", FRONT, BACK))
    with pytest.raises(ValueRefused, match="expected contiguous float32"):
        arrays.merge("over", FRONT, BACK, out=out[:, :1])
