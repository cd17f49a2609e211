"""Alpha is coverage: it stays within 0..1, whatever a file or a step says."""

from __future__ import annotations

import numpy as np

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from .picture import Plane


def is_coverage(alpha: Plane) -> bool:
    """Whether no value of ``(H, W)`` lies below 0 or above 1; NaN does neither."""
    found: list[bool] = []

    def strip(y0: int, y1: int) -> None:
        rows = alpha[y0:y1].reshape(-1)
        found.append(not (np.fmin.reduce(rows) < 0 or np.fmax.reduce(rows) > 1))

    for_strips(alpha.shape[0], alpha.shape[1], strip)
    return all(found)


@kernel
def limit_coverage(a):  # type: ignore[no-untyped-def]
    """A flat alpha within 0..1, in place; written so that NaN stays NaN."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(a.size):
        low = zero if a[i] < zero else a[i]
        a[i] = one if low > one else low
