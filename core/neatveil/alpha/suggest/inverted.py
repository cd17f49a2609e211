"""Telling an alpha that was stored the other way round."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...picture import RGB, Plane, StoredPicture

#: Difference of neighbours, in code value, that is no detail but rounding.
STILL = 1.5 / 255
#: Share of the pixels with detail: at most so many where it is flat, at least so many where it is not.
FLAT, DETAILED = 0.02, 0.3
LEAST = 200
#: Blocks of that many of each kind are enough: each stands for many pixels.
LEAST_BLOCKS = 24


#: Side of the blocks whose means are compared where noise hides what is flat.
BLOCK = 8
#: As `FLAT` and `DETAILED`, of blocks, which a codec's rings reach here and there.
FLAT_BLOCKS, DETAILED_BLOCKS = 0.06, 0.3


def looks_inverted(frames: Sequence[StoredPicture], top: float) -> bool:
    """Whether the RGB is flat where the alpha is 1 and has detail where it is 0.

    A picture that is there has its detail under alpha 1. What is flat all over (a title) cannot be told
    from its own inverse, and is not taken for one. Under noise the means of blocks tell.
    """
    return _flat_where_full(frames, top, FLAT, DETAILED, LEAST) or _flat_where_full(
        [_in_blocks(p) for p in frames], top, FLAT_BLOCKS, DETAILED_BLOCKS, LEAST_BLOCKS
    )


def _in_blocks(picture: StoredPicture) -> StoredPicture:
    """Means of blocks; the alpha of a block that is not all of one alpha is one half."""
    height, width = (n // BLOCK * BLOCK for n in picture["A"].shape)

    def blocks(plane: Plane) -> Plane:
        return plane[:height, :width].reshape(height // BLOCK, BLOCK, width // BLOCK, BLOCK)

    alpha = blocks(picture["A"])
    low, high = alpha.min((1, 3)), alpha.max((1, 3))
    planes = {n: np.ascontiguousarray(blocks(picture[n]).mean((1, 3))) for n in RGB}
    planes["A"] = np.where(low == high, low, np.float32(0.5)).astype(np.float32)
    return StoredPicture(planes)


def _flat_where_full(
    frames: Sequence[StoredPicture], top: float, flat: float, detailed: float, least: int
) -> bool:
    under_full, under_clear = [], []
    for p in frames:
        alpha, moving = p["A"], np.zeros(p["A"].shape, bool)
        for n in RGB:
            moving[:, 1:] |= np.abs(np.diff(p[n], axis=1)) > STILL
        # neighbours of equal alpha: an edge is no detail of either side
        moving[:, 1:] &= alpha[:, 1:] == alpha[:, :-1]
        under_full.append(moving[alpha >= 1 - 0.5 / top])
        under_clear.append(moving[alpha <= 0.5 / top])
    full, clear = np.concatenate(under_full), np.concatenate(under_clear)
    if len(full) < least or len(clear) < least:
        return False
    return bool(full.mean() <= flat and clear.mean() >= detailed)
