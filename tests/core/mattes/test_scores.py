"""Errors of mattes after Rhemann and others 2009, on cases that can be counted by hand."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import soft_disc
from neatveil.errors import ValueRefused
from neatveil.mattes.scores import matte_errors

TRUE = soft_disc(64, 80)[..., 3]


def test_the_true_matte_has_no_error():
    assert matte_errors(TRUE, TRUE) == (0, 0, 0, 0)


def test_sums_and_means_of_a_shift_in_value():
    got = matte_errors(np.full((50, 40), 0.3, np.float32), np.full((50, 40), 0.5, np.float32))
    assert got.sad == pytest.approx(0.4, abs=1e-6)
    assert got.mse == pytest.approx(0.04, abs=1e-6)
    assert got.gradient == pytest.approx(0, abs=1e-12)


def test_the_gradient_is_that_of_gaussian_derivatives():
    """SciPy's derivative filters, brought to the same norm as the benchmark's."""
    soft = ndi.gaussian_filter(TRUE, 1.5)
    x = np.arange(-20, 21)
    bell = np.exp(-(x**2) / (2 * 1.4**2))
    lean = -x * bell
    norm = np.sqrt((np.outer(bell, lean) ** 2).sum())
    raw = bell.sum() * np.abs(lean * x).sum()  # gain of the pair on a ramp of slope 1

    def slope(m):
        parts = [ndi.gaussian_filter(m.astype(float), 1.4, order=o, truncate=8) for o in ((0, 1), (1, 0))]
        return np.hypot(*parts) * raw / norm

    expected = ((slope(soft) - slope(TRUE)) ** 2).sum() / 1000
    # the benchmark cuts its filters off earlier
    assert matte_errors(soft, TRUE).gradient == pytest.approx(expected, rel=0.03)


def test_a_loose_speck_is_worse_for_connectivity_than_the_same_beside_the_edge():
    loose, beside = TRUE.copy(), TRUE.copy()
    loose[2:6, 2:6] = 1
    grown = np.argwhere((ndi.binary_dilation(TRUE > 0.99, iterations=1)) & (TRUE <= 0.99))[:16]
    beside[tuple(grown.T)] = 1
    assert matte_errors(loose, TRUE).connectivity == pytest.approx(0.016, abs=1e-6)
    assert matte_errors(beside, TRUE).connectivity < 0.016


def test_sizes_that_differ_are_refused():
    with pytest.raises(ValueRefused, match="differ in size"):
        matte_errors(TRUE, TRUE[:-1])
