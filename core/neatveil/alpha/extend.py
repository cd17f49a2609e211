"""The colour of a surface taken past its edge, so that another alpha finds it there.

Sums of colour and of alpha are halved again and again; where a pixel has no alpha its colour is that of the
finest level that has some. Source: Gortler and others 1996, section 3.4.2, pull-push [Gortler1996].
"""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np
from numpy.typing import NDArray

from ..picture import RGB, Plane

Block = NDArray[np.float32]

#: Alpha from which on a coarser level's own colour counts in full.
_TRUSTED = 0.25


#: Blocks of this many pixels are halved together wherever a picture's borders lie.
_BLOCK = 64


def extended_colour(
    planes: Mapping[str, Plane], least: float = 0.0, corner: tuple[int, int] = (0, 0)
) -> dict[str, Plane]:
    """Straight R, G, B ``(H, W)`` everywhere, from premultiplied R, G, B, A.

    Where alpha is above ``least`` it is the pixel's own ``C / a``; elsewhere that of what is nearest. Where
    no alpha is anywhere, 0. ``corner``: x and y of the first pixel seen from the frame's corner: blocks of
    pixels are counted from there, so that a picture without its empty borders comes out the same.
    """
    alpha = planes["A"]
    own = alpha > least
    weight = np.where(own, alpha, np.float32(0))
    stack = np.dstack([*(np.where(own, planes[n], np.float32(0)) for n in RGB), weight])
    height, width = alpha.shape
    left, top = corner[0] % _BLOCK, corner[1] % _BLOCK
    sides = (top, -(top + height) % _BLOCK), (left, -(left + width) % _BLOCK)
    filled = _filled(np.pad(stack, (*sides, (0, 0))))[top : top + height, left : left + width]
    found = {}
    for i, n in enumerate(RGB):
        straight = np.divide(planes[n], alpha, out=np.zeros_like(alpha), where=own)
        found[n] = np.where(own, straight, filled[..., i])
    return found


def _filled(stack: Block) -> Block:
    """``(H, W, 3)`` colour from ``(H, W, 4)`` sums of colour and of alpha."""
    levels = [stack]
    while max(levels[-1].shape[:2]) > 1:
        big = levels[-1]
        size = ((big.shape[1] + 1) // 2, (big.shape[0] + 1) // 2)
        levels.append(np.asarray(cv2.resize(big, size, interpolation=cv2.INTER_AREA)))
    colour: Block | None = None
    for level in reversed(levels):
        height, width = level.shape[:2]
        if colour is None:  # one pixel: all there is
            colour = np.asarray(level[..., :3] / np.maximum(level[..., 3:], 1e-30), np.float32)
            continue
        coarse = np.asarray(cv2.resize(colour, (width, height), interpolation=cv2.INTER_LINEAR))
        coarse = coarse.reshape(height, width, 3)
        alpha = level[..., 3:]
        own = np.divide(level[..., :3], alpha, out=np.zeros_like(coarse), where=alpha > 0)
        share = np.clip(alpha / _TRUSTED, 0, 1)
        colour = own * share + coarse * (1 - share)
    assert colour is not None
    return colour
