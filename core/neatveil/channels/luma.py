"""Luma and luminance: weighted sums of R, G and B."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..errors import unknown_name

#: Weights of R, G, B by standard: ITU-R BT.601-7 [BT601], BT.709-6 [BT709], BT.2020-2 [BT2020].
LUMA_WEIGHTS: dict[str, tuple[float, float, float]] = {
    "bt601": (0.299, 0.587, 0.114),
    "bt709": (0.2126, 0.7152, 0.0722),
    "bt2020": (0.2627, 0.6780, 0.0593),
    "mean": (1 / 3, 1 / 3, 1 / 3),
}


def luma(rgb: NDArray[np.float32], weights: str = "bt709") -> NDArray[np.float32]:
    """Weighted sum of the first three channels, ``(..., 3 or more)`` to ``(...)``; not clamped.

    On encoded values this is luma, on linear ones luminance.

    >>> round(float(luma(np.array([1, 0, 0], np.float32), "bt601")), 6)
    0.299
    """
    try:
        w = LUMA_WEIGHTS[weights]
    except KeyError:
        raise unknown_name("set of luma weights", weights, list(LUMA_WEIGHTS)) from None
    r, g, b = (np.float32(v) for v in w)
    total: NDArray[np.float32] = rgb[..., 0] * r + rgb[..., 1] * g + rgb[..., 2] * b
    return total.astype(np.float32, copy=False)
