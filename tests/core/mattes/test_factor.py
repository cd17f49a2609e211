"""The factor that a matte's solver goes by: beside NumPy's own, whole and in bands."""

from __future__ import annotations

import numpy as np
import pytest
from core.reference.mattes import laplacian
from neatveil.mattes import factor
from neatveil.mattes.factor import factor_of, order_of
from neatveil.mattes.natural import edge_found
from scipy.sparse import csc_matrix

from .test_natural import blurred_disc, planes_of


def random_system(height=24, width=17, seed=3):
    """Levin's matrix of a random picture, a little lifted, as `laplacian` writes it out."""
    light = np.random.default_rng(seed).uniform(0.1, 1, (height, width, 3))
    return laplacian(light) + 0.05 * np.eye(height * width)


def lower(found):
    """The factor as a matrix."""
    size = len(found.begin)
    matrix = np.zeros((size, size))
    for j, (a, b) in enumerate(zip(found.begin, found.end, strict=True)):
        matrix[found.rows[a:b], j] = found.values[a:b]
    return matrix


@pytest.mark.parametrize("one_band", [10**6, 0])
def test_without_a_threshold_it_is_choleskys(monkeypatch, one_band):
    monkeypatch.setattr(factor, "ONE_BAND", one_band)
    monkeypatch.setattr(factor, "THRESHOLD", 0.0)
    order = order_of(np.ones((24, 17), bool))
    assert len(order.ends) == (1 if one_band else factor.BANDS)
    system = random_system()[np.ix_(order.pixels, order.pixels)]
    found = factor_of(csc_matrix(system), order.ends)
    expected = np.linalg.cholesky(system)
    np.testing.assert_allclose(lower(found), expected, atol=1e-6 * np.abs(expected).max())
    given = np.random.default_rng(1).normal(size=len(system))
    np.testing.assert_allclose(found(given), np.linalg.solve(system, given), rtol=1e-3, atol=1e-4)


def test_no_pixel_of_a_band_is_in_an_equation_with_one_of_another(monkeypatch):
    monkeypatch.setattr(factor, "ONE_BAND", 0)
    unknown = np.random.default_rng(5).random((40, 9)) < 0.7
    order = order_of(unknown)
    np.testing.assert_array_equal(np.sort(order.pixels), np.flatnonzero(unknown))
    system = random_system(40, 9)[np.ix_(order.pixels, order.pixels)]
    bands = list(zip((0, *order.ends), order.ends, strict=False))
    assert len(bands) == factor.BANDS
    for a, b in bands:
        assert not system[a:b, b : order.ends[-1]].any()
        assert b - a > len(order.pixels) / factor.BANDS / 2  # about as many pixels each


@pytest.mark.parametrize("where", [np.s_[7:8, :], np.s_[3:5, 2:4], np.s_[:, 4:5], np.s_[0:1, 0:1]])
def test_few_rows_and_few_pixels(monkeypatch, where):
    """Bands without a pixel, or all pixels between bands."""
    monkeypatch.setattr(factor, "ONE_BAND", 0)
    unknown = np.zeros((12, 9), bool)
    unknown[where] = True
    order = order_of(unknown)
    system = random_system(12, 9)[np.ix_(order.pixels, order.pixels)]
    given = np.arange(1.0, len(system) + 1)
    found = factor_of(csc_matrix(system), order.ends)
    np.testing.assert_allclose(found(given), np.linalg.solve(system, given), rtol=0.05, atol=0.1)


def test_room_is_made_where_there_is_too_little(monkeypatch):
    order = order_of(np.ones((24, 17), bool))
    system = csc_matrix(random_system())
    monkeypatch.setattr(factor, "THRESHOLD", 0.0)
    monkeypatch.setattr(factor, "ROOM", 100)
    expected = lower(factor_of(system, order.ends))
    monkeypatch.setattr(factor, "ROOM", 1)
    assert np.count_nonzero(expected) > system.nnz
    np.testing.assert_array_equal(lower(factor_of(system, order.ends)), expected)


def test_what_is_not_positive_is_lifted_until_it_is():
    system = csc_matrix(np.array([[1.0, 2.0], [2.0, 1.0]]))
    found = lower(factor_of(system, (2,)))
    assert np.linalg.eigvalsh(found @ found.T).min() > 0
    with pytest.raises(ValueError, match="not positive"):
        factor_of(csc_matrix(-100 * np.eye(2)), (2,))


def test_an_edge_in_bands_is_the_same_edge(monkeypatch):
    """To what the solver's residual leaves."""
    rng = np.random.default_rng(4)
    rough = blurred_disc(90, 120)
    light = rough[..., None] * [0.7, 0.4, 0.2] + (1 - rough[..., None]) * [0.1, 0.3, 0.5]
    planes = planes_of((light + rng.normal(0, 0.02, light.shape)).clip(0.01, 1))
    whole = edge_found(planes, rough, 6.0, 0.01)
    monkeypatch.setattr(factor, "ONE_BAND", 0)
    np.testing.assert_allclose(edge_found(planes, rough, 6.0, 0.01), whole, atol=2e-3)
    np.testing.assert_array_equal(edge_found(planes, rough, 6.0, 0.01), edge_found(planes, rough, 6.0, 0.01))
