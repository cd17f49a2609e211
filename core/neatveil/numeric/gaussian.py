"""The sampled Gaussian."""

from __future__ import annotations

from functools import lru_cache
from math import ceil

import numpy as np
from numpy.typing import NDArray


@lru_cache(maxsize=64)
def gaussian(sigma: float) -> NDArray[np.float32]:
    """``(2 * ceil(4 sigma) + 1,)`` weights, which add up to 1."""
    x = np.arange(-ceil(4 * sigma), ceil(4 * sigma) + 1)
    weights = np.exp(-0.5 * (x / sigma) ** 2)
    return np.asarray(weights / weights.sum(), np.float32)
