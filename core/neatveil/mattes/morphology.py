"""Grey morphology by a disc: an edge moved by a number of pixels that need not be whole.

A radius between two whole ones is their mean, weighted. The disc of radius r holds the pixels whose centres
are at most r away.
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, floor

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import Plane


def grown(plane: Plane, radius: float, border: int = cv2.BORDER_REPLICATE) -> Plane:
    """``(H, W)`` grown by a disc, or shrunk where the radius is below 0; a new plane."""
    work = cv2.dilate if radius > 0 else cv2.erode
    size = abs(radius)
    low, high = floor(size), ceil(size)
    small = plane if low == 0 else work(plane, footprint(low), borderType=border, borderValue=0)
    if low == high:
        return plane.copy() if low == 0 else np.asarray(small, np.float32)
    large = work(plane, footprint(high), borderType=border, borderValue=0)
    return np.asarray(cv2.addWeighted(small, 1 - (size - low), large, size - low, 0), np.float32)


@lru_cache(maxsize=64)
def footprint(radius: int) -> NDArray[np.uint8]:
    y, x = np.mgrid[-radius : radius + 1, -radius : radius + 1]
    return np.asarray(x * x + y * y <= radius * radius, np.uint8)
