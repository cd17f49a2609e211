"""How far a matte is from the true one.

Source: Rhemann and others 2009, section 5 [Rhemann2009]: sums of absolute and mean squared differences, of
gradients (Gaussian derivatives of spread 1.4, squared), and of connectivity (threshold 0.15, ten steps). Sums
are over the whole picture, in thousands of pixels as the benchmark gives them.
"""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from ..errors import ValueRefused
from ..picture import Plane

_SPREAD = 1.4
_STEPS = np.arange(0.0, 1.01, 0.1)
_LOOSE = 0.15


class MatteErrors(NamedTuple):
    """Sum of absolute differences / 1000, mean squared, gradient / 1000, connectivity / 1000."""

    sad: float
    mse: float
    gradient: float
    connectivity: float


def matte_errors(found: Plane, true: Plane) -> MatteErrors:
    """Of two mattes ``(H, W)`` 0..1; `ValueRefused` where their sizes differ."""
    if found.shape != true.shape:
        raise ValueRefused(f"The mattes differ in size: {found.shape} and {true.shape}.")
    away = np.abs(found.astype(np.float64) - true)
    slopes = (_slope(found) - _slope(true)) ** 2
    return MatteErrors(
        float(away.sum()) / 1000, float((away**2).mean()), float(slopes.sum()) / 1000,
        float(np.abs(_held(found, true) - _held(true, found)).sum()) / 1000,
    )  # fmt: skip


def _slope(matte: Plane) -> NDArray[np.float64]:
    """Magnitude of the gradient."""
    reach = int(np.ceil(_SPREAD * np.sqrt(-2 * np.log(np.sqrt(2 * np.pi) * _SPREAD * 1e-2))))
    x = np.arange(-reach, reach + 1)
    bell = np.exp(-(x**2) / (2 * _SPREAD**2)) / (_SPREAD * np.sqrt(2 * np.pi))
    lean = -x * bell / _SPREAD**2
    lean2 = np.outer(bell, lean)
    lean2 /= np.sqrt((lean2**2).sum())
    plane = matte.astype(np.float64)
    dx, dy = (cv2.filter2D(plane, -1, k, borderType=cv2.BORDER_REPLICATE) for k in (lean2, lean2.T))
    return np.hypot(dx, dy)


def _held(matte: Plane, other: Plane) -> NDArray[np.float64]:
    """How well every pixel hangs together with what both mattes keep: 1 less what stands out of that."""
    level = np.full(matte.shape, -1.0)
    for before, step in pairwise(_STEPS):
        both = ((matte >= step) & (other >= step)).astype(np.uint8)
        _, labels, stats, _ = cv2.connectedComponentsWithStats(both, connectivity=4)
        areas = stats[1:, cv2.CC_STAT_AREA]
        largest = labels == 1 + int(areas.argmax()) if areas.size else np.zeros(matte.shape, bool)
        level[(level == -1) & ~largest] = before
    level[level == -1] = 1
    out = matte - level
    return np.asarray(1 - out * (out >= _LOOSE))
