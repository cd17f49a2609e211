"""What a half-precision number can hold."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

#: Largest number that a half holds (IEEE 754 binary16).
HALF_MOST = 65504.0


def within_half(plane: NDArray[np.float32]) -> NDArray[np.float32]:
    """Finite values brought within what a half holds, which would make infinity of them.

    ``(H, W)``; the plane itself where there is nothing to bring. NaN and infinities stay.
    """
    limit = np.float32(HALF_MOST)
    largest, least = np.fmax.reduce(plane, None, initial=0), np.fmin.reduce(plane, None, initial=0)
    if largest <= limit and least >= -limit:
        return plane
    return np.where(np.isfinite(plane), np.clip(plane, -limit, limit), plane).astype(np.float32, copy=False)
