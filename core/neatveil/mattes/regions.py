"""Small regions of a matte: specks that are dropped and holes that are filled, by their area.

A speck is a connected region (8 neighbours) of values above `SEEN`; a hole one of values below one minus it,
which does not touch the frame. Their soft rims go with them.
"""

from __future__ import annotations

import cv2
import numpy as np

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane

#: A value that counts as something: half a step of what the eye tells apart in a matte over black and white.
SEEN = np.float32(0.02)


def without_specks(plane: Plane, area: float) -> Plane:
    """``(H, W)`` 0..1 with every region of fewer than ``area`` pixels set to 0; a new plane where any was."""
    return _without(plane, plane > SEEN, area, np.float32(0), at_border=True)


def without_holes(plane: Plane, area: float) -> Plane:
    """``(H, W)`` 0..1 with every enclosed hole of fewer than ``area`` pixels set to 1."""
    return _without(plane, plane < np.float32(1) - SEEN, area, np.float32(1), at_border=False)


def _without(
    plane: Plane, inside: np.ndarray[tuple[int, ...], np.dtype[np.bool_]], area: float, value: np.float32,
    *, at_border: bool,
) -> Plane:  # fmt: skip
    _, labels, stats, _ = cv2.connectedComponentsWithStats(inside.view(np.uint8), connectivity=8)
    chosen = stats[:, cv2.CC_STAT_AREA] < area
    chosen[0] = False  # what is not inside
    if not at_border:
        height, width = inside.shape
        x, y = stats[:, cv2.CC_STAT_LEFT], stats[:, cv2.CC_STAT_TOP]
        right, bottom = x + stats[:, cv2.CC_STAT_WIDTH], y + stats[:, cv2.CC_STAT_HEIGHT]
        chosen &= (x > 0) & (y > 0) & (right < width) & (bottom < height)
    if not chosen.any():
        return plane
    out = np.empty_like(plane)

    def strip(a: int, b: int) -> None:
        _replaced(plane[a:b].reshape(-1), labels[a:b].reshape(-1), chosen, value, out[a:b].reshape(-1))

    for_strips(plane.shape[0], plane.shape[1], strip)
    return out


@kernel
def _replaced(plane, labels, chosen, value, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = value if chosen[labels[i]] else plane[i]
