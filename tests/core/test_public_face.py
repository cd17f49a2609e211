"""The documented face: names, doctests, luma weights."""

import doctest
import importlib
import pkgutil

import neatveil
import numpy as np
import pytest
from neatveil import arrays


def test_arrays_offer_what_is_documented():
    assert set(arrays.__all__) == {
        "grow_shrink", "levels", "luma", "merge", "operators", "premultiply",
        "suggest_reading", "unpremultiply", "difference_key", "despill",
    }  # fmt: skip
    assert all(getattr(arrays, n).__doc__ for n in arrays.__all__)


def modules():
    return [
        m.name for m in pkgutil.walk_packages(neatveil.__path__, "neatveil.") if m.name != "neatveil.io.child"
    ]


@pytest.mark.parametrize("name", modules())
def test_examples_in_docstrings(name):
    module = importlib.import_module(name)
    result = doctest.testmod(module, extraglobs={"np": np})
    assert result.failed == 0


@pytest.mark.parametrize(("weights", "red"), [("bt601", 0.299), ("bt709", 0.2126), ("bt2020", 0.2627)])
def test_luma_weights_of_the_standards(weights, red):
    """ITU-R BT.601-7, BT.709-6, BT.2020-2 [BT601] [BT709] [BT2020]."""
    assert arrays.luma(np.array([[1, 0, 0]], np.float32), weights)[0] == pytest.approx(red, abs=1e-7)
    assert arrays.luma(np.ones((1, 3), np.float32), weights)[0] == pytest.approx(1, abs=1e-6)


def test_inputs_are_never_changed():
    rgba = np.random.default_rng(0).random((4, 4, 4), np.float32)
    before = rgba.copy()
    arrays.levels(rgba, gamma=2, channels="rgba")
    arrays.merge("over", rgba, rgba)
    arrays.unpremultiply(rgba)
    np.testing.assert_array_equal(rgba, before)
