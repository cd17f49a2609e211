"""Levels: the formula, on straight colour, leaving alpha and light alone."""

import numpy as np
import pytest
from core.pictures import premultiplied, soft_disc
from neatveil import arrays
from neatveil.steps.levels import LevelsStep
from pydantic import ValidationError


def test_sky_brightened_to_match_sunlit_walls():
    """Input white 255 to 200, gamma 1.5, black untouched (common practice, no source)."""
    code = np.array([[[0, 100 / 255, 200 / 255, 1]]], np.float32)
    got = arrays.levels(code, in_white=200 / 255, gamma=1.5)[0, 0]
    np.testing.assert_allclose(got, [0, 0.5 ** (1 / 1.5), 1, 1], atol=2e-6)


def test_exact_to_two_millionths_against_float64():
    rgba = premultiplied(soft_disc())
    got = arrays.levels(rgba, 0.05, 0.9, 1.7, 0.02, 1.1)
    a = rgba[..., 3:].astype(float)
    straight = rgba[..., :3] / np.where(a > 0, a, 1)
    t = (straight - 0.05) / 0.85
    expected = (0.02 + 1.08 * np.where(t > 0, np.abs(t) ** (1 / 1.7), t)) * a
    np.testing.assert_allclose(got[..., :3], expected, atol=2e-6)
    np.testing.assert_array_equal(got[..., 3], rgba[..., 3])


def test_no_grey_where_there_is_nothing():
    assert arrays.levels(np.zeros((2, 2, 4), np.float32), out_black=0.2).max() == 0


def test_only_the_named_channels():
    rgba = premultiplied(soft_disc())
    got = arrays.levels(rgba, gamma=2, channels="g")
    np.testing.assert_array_equal(got[..., 0], rgba[..., 0])
    assert np.abs(got[..., 1] - rgba[..., 1]).max() > 0.05


def test_alpha_levels_keep_the_surface_colour():
    rgba = premultiplied(soft_disc(colour=(0.8, 0.4, 0.2)))
    got = arrays.levels(rgba, in_black=0.2, in_white=0.8, channels="a")
    edge = (got[..., 3] > 0.05) & (got[..., 3] < 0.95)
    np.testing.assert_allclose(got[edge][:, 0] / got[edge][:, 3], 0.8, atol=1e-5)


def test_black_and_white_must_differ():
    with pytest.raises(ValidationError, match="must differ"):
        LevelsStep(in_black=0.5, in_white=0.5)
