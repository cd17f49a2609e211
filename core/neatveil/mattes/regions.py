"""Small regions of a matte: specks that are dropped and holes that are filled, by their area.

A speck is a connected region (8 neighbours) of values above `SEEN`; a hole one of values below one minus it,
which does not touch the frame. Their soft rims go with them.
"""

from __future__ import annotations

import cv2
import numpy as np

from ..picture import Plane

#: A value that counts as something: half a step of what the eye tells apart in a matte over black and white.
SEEN = np.float32(0.02)


def without_specks(plane: Plane, area: float) -> Plane:
    """``(H, W)`` 0..1 with every region of fewer than ``area`` pixels set to 0; a new plane where any was."""
    small = _small(plane > SEEN, area, at_border=True)
    return plane if small is None else np.where(small, np.float32(0), plane)


def without_holes(plane: Plane, area: float) -> Plane:
    """``(H, W)`` 0..1 with every enclosed hole of fewer than ``area`` pixels set to 1."""
    small = _small(plane < np.float32(1) - SEEN, area, at_border=False)
    return plane if small is None else np.where(small, np.float32(1), plane)


def _small(
    inside: np.ndarray[tuple[int, ...], np.dtype[np.bool_]], area: float, *, at_border: bool
) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]] | None:
    count, labels, stats, _ = cv2.connectedComponentsWithStats(inside.astype(np.uint8), connectivity=8)
    chosen = stats[:, cv2.CC_STAT_AREA] < area
    chosen[0] = False  # what is not inside
    if not at_border:
        height, width = inside.shape
        x, y = stats[:, cv2.CC_STAT_LEFT], stats[:, cv2.CC_STAT_TOP]
        right, bottom = x + stats[:, cv2.CC_STAT_WIDTH], y + stats[:, cv2.CC_STAT_HEIGHT]
        chosen &= (x > 0) & (y > 0) & (right < width) & (bottom < height)
    return np.asarray(chosen[labels]) if count > 1 and chosen.any() else None
