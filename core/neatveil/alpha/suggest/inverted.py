"""Telling an alpha that was stored the other way round."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...picture import RGB, StoredPicture

#: Difference of neighbours, in code value, that is no detail but rounding.
STILL = 1.5 / 255
#: Share of the pixels with detail: at most so many where it is flat, at least so many where it is not.
FLAT, DETAILED = 0.02, 0.3
LEAST = 200


def looks_inverted(frames: Sequence[StoredPicture], top: float) -> bool:
    """Whether the RGB is flat where the alpha is 1 and has detail where it is 0.

    A picture that is there has its detail under alpha 1. What is flat all over (a title) cannot be told
    from its own inverse, and is not taken for one.
    """
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
    if len(full) < LEAST or len(clear) < LEAST:
        return False
    return bool(full.mean() <= FLAT and clear.mean() >= DETAILED)
