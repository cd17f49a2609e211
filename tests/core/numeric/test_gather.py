"""Pictures read between their pixels: against SciPy, for small sizes and counts and everything beyond."""

from __future__ import annotations

import numpy as np
import pytest
from neatveil.numeric.gather import BEYOND, add_at, any_beyond, read_at
from scipy.ndimage import map_coordinates

#: What SciPy calls the ways in which a picture goes on.
MODES = {"wrap": "grid-wrap", "mirror": "reflect", "clamp": "nearest", "clear": "grid-constant"}


def drawn(seed, count, width, height):
    rng = np.random.default_rng(seed)
    picture = rng.random((height, width, 4), np.float32)
    x, y = (rng.uniform(-2 * n, 3 * n, count).astype(np.float32) for n in (width, height))
    inside = rng.random(count) < 0.7
    x[inside], y[inside] = (rng.uniform(0, n, inside.sum()) for n in (width - 1, height - 1))
    x[rng.random(count) < 0.1] = np.nan
    return picture, x, y, rng.random(count, np.float32)


def by_scipy(picture, x, y, share, beyond):
    known = np.isfinite(x) & np.isfinite(y)
    places = np.stack([np.where(known, y, 0), np.where(known, x, 0)]).astype(np.float64)
    planes = [
        map_coordinates(picture[..., i].astype(np.float64), places, order=1, mode=MODES[beyond])
        for i in range(4)
    ]
    return np.stack(planes, -1) * np.where(known, share, 0)[:, None]


def worked_in(count):
    return np.empty(count, np.int32), np.empty(count, np.float32), np.empty(count, np.float32)


@pytest.mark.parametrize("beyond", BEYOND)
@pytest.mark.parametrize(("width", "height"), [(1, 1), (1, 5), (6, 1), (2, 2), (7, 4), (40, 23)])
@pytest.mark.parametrize("count", [1, 3, 4, 6, 61])
def test_as_scipy_reads_it(beyond, width, height, count):
    picture, x, y, share = drawn(count + 100 * width, count, width, height)
    flat, some_beyond = picture.reshape(-1), any_beyond(x, y, width, height)
    found = np.full((4, count), 9, np.float32)
    read_at(x, y, some_beyond, share, x, y, flat, width, height, BEYOND[beyond], *worked_in(count), *found)
    expected = by_scipy(picture, x, y, share, beyond)
    assert np.abs(found.T - expected).max() < 2e-5
    total = np.ones((count, 4), np.float32)
    add_at(
        x, y, some_beyond, share, flat, width, height, BEYOND[beyond], *worked_in(count), total.reshape(-1)
    )
    assert np.abs(total - 1 - expected).max() < 2e-5
