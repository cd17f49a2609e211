"""Glow and grain: light that alpha does not hold, and noise with the spread it states."""

from math import ceil

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step
from neatveil.steps.blur import softened

DISC = premultiplied(soft_disc(80, 96, colour=(2.0, 1.0, 0.2)))


def test_a_glow_is_light_where_alpha_is_0():
    got = done(DISC, step("glow", size=6, threshold=0.5))
    np.testing.assert_array_equal(got[..., 3], DISC[..., 3])
    outside = DISC[..., 3] == 0
    assert got[outside][:, 0].max() > 0.1
    assert not (got[outside][:, 2] > 0).any(), "blue is below the threshold"


def test_a_glow_is_the_gaussian_of_what_is_above_the_threshold():
    got = done(DISC, step("glow", size=4, threshold=0.5, gain=0.7, tint=(1, 0.5, 0)))
    bright = np.maximum(DISC[..., 1] - 0.5 * DISC[..., 3], 0).astype(float)
    expected = DISC[..., 1] + 0.35 * ndi.gaussian_filter(bright, 4, mode="nearest", radius=16)
    np.testing.assert_allclose(got[..., 1], expected, atol=3e-6)


@pytest.mark.parametrize("sigma", [7.0, 18.0, 41.5])
def test_a_wide_glow_is_near_the_gaussian(sigma):
    """SciPy's sampled Gaussian; a point of light, a row of reeds and a bank of cloud."""
    rows = np.zeros((301, 352), np.float32)
    rows[150, 170] = 1000
    rows[40:60, ::7] = 2
    rows[200:, :90] = 1
    expected = ndi.gaussian_filter(rows.astype(float), sigma, mode="nearest", radius=ceil(4 * sigma))
    got = softened(rows, sigma)
    assert np.abs(got - expected).max() < 3e-4 * expected.max()
    assert got.min() >= 0
    assert got.sum() == pytest.approx(expected.sum(), rel=2e-4)


def grain(**more):
    grey = opaque(np.full((200, 200, 3), 0.5))
    return done(grey, step("grain", tone=0, **more), frame=more.pop("frame", 1))[..., :3] - 0.5


@pytest.mark.parametrize("size", [0.0, 0.8, 2.0])
def test_grain_has_the_spread_it_states(size):
    noise = grain(amount=(0.05, 0.02, 0), size=size)
    assert noise[..., 0].std() == pytest.approx(0.05, rel=0.08)
    assert noise[..., 1].std() == pytest.approx(0.02, rel=0.08)
    assert not noise[..., 2].any()
    assert abs(noise.mean()) < 0.002


def test_grain_is_the_same_again_and_other_in_the_next_frame():
    grey = opaque(np.full((50, 50, 3), 0.5))
    one, again, next_one = (done(grey, step("grain"), frame=f) for f in (4, 4, 5))
    np.testing.assert_array_equal(one, again)
    assert np.corrcoef(one[..., 0].ravel(), next_one[..., 0].ravel())[0, 1] < 0.1


def test_grain_stays_on_the_surface():
    got = done(DISC, step("grain", amount=(0.1, 0.1, 0.1)))
    assert not got[DISC[..., 3] == 0].any()
    np.testing.assert_array_equal(got[..., 3], DISC[..., 3])
