"""The plain arithmetic operators, on floats beyond 0..1, and what the table promises of each operator."""

import numpy as np
import pytest
from core.pictures import premultiplied, soft_disc
from neatveil import arrays
from neatveil.errors import ValueRefused
from neatveil.merge import merge_planes
from neatveil.picture import RGBA

FRONT = np.array([[[0.5, -1.0, 4.0, 0.5], [0.0, 0.0, 0.0, 0.0]]], np.float32)
BACK = np.array([[[0.25, 3.0, 2.0, 1.0], [0.5, 0.5, 0.5, 1.0]]], np.float32)

EXPECTED = {
    "add": FRONT + BACK,
    "subtract": BACK - FRONT,
    "divide": [[[0.5, -3.0, 0.5, 2.0], [0, 0, 0, 0]]],
    "min": [[[0.25, -1.0, 2.0, 0.5], [0, 0, 0, 0]]],
    "max": [[[0.5, 3.0, 4.0, 1.0], [0.5, 0.5, 0.5, 1.0]]],
    "average": (FRONT + BACK) / 2,
}


@pytest.mark.parametrize("name", EXPECTED)
def test_arithmetic_is_unclamped(name):
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


@pytest.mark.parametrize("name", arrays.operators())
def test_mix_0_is_the_back(name):
    np.testing.assert_allclose(arrays.merge(name, FRONT, BACK, 0.0), BACK, atol=1e-7)


def test_out_takes_the_result_and_is_checked():
    out = np.empty_like(FRONT)
    assert arrays.merge("over", FRONT, BACK, out=out) is out
    np.testing.assert_array_equal(out, arrays.merge("over", FRONT, BACK))
    with pytest.raises(ValueRefused, match="expected contiguous float32"):
        arrays.merge("over", FRONT, BACK, out=out[:, :1])
