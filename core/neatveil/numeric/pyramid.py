"""A picture and its halves, for looking it up at any size.

Source: Williams 1983, pyramidal parametrics [Williams1983].
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .pool import for_strips

Floats = NDArray[np.float32]


class Pyramid(NamedTuple):
    """A picture and its halves, all R, G, B, A of one after another, ``(N, 4)``; and where each begins."""

    pixels: Floats
    begins: NDArray[np.int64]
    widths: NDArray[np.int64]
    heights: NDArray[np.int64]


def pyramid_of(planes: Sequence[Floats], whole: bool) -> Pyramid:
    """``planes``: R, G, B, A, ``(H, W)`` each, premultiplied. Not ``whole``: only the picture itself."""
    shapes = [planes[0].shape]
    while whole and max(shapes[-1]) > 1:
        shapes.append((max(1, shapes[-1][0] // 2), max(1, shapes[-1][1] // 2)))
    begins = np.cumsum([0, *(h * w for h, w in shapes)])
    pixels = new_array((int(begins[-1]), 4))
    levels = [
        pixels[begin : begin + h * w].reshape(h, w, 4) for begin, (h, w) in zip(begins, shapes, strict=False)
    ]

    interleave(planes, levels[0])
    for larger, smaller in pairwise(levels):
        size = smaller.shape[1], smaller.shape[0]
        cv2.resize(larger, size, dst=smaller, interpolation=cv2.INTER_AREA)
    sizes = np.array(shapes, np.int64)
    return Pyramid(pixels, begins[:-1].astype(np.int64), sizes[:, 1].copy(), sizes[:, 0].copy())


def interleave(planes: Sequence[Floats], pixels: Floats) -> None:
    """``pixels``, ``(H, W, 4)``, takes planes ``(H, W)``."""

    def strip(y0: int, y1: int) -> None:
        cv2.merge([p[y0:y1] for p in planes], pixels[y0:y1])

    height, width = planes[0].shape
    for_strips(height, width * 4, strip)
