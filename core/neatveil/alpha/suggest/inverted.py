"""Telling an alpha that was stored the other way round."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...picture import RGB, StoredPicture

#: Spread of a colour, in code value, below which it is one flat colour, and above which it has detail.
FLAT, DETAIL = 1.5 / 255, 8 / 255
LEAST = 200


def looks_inverted(frames: Sequence[StoredPicture], top: float) -> bool:
    """Whether the RGB is one flat colour where the alpha is 1 and has detail where it is 0.

    A picture that is there and fills its own shape has its detail under alpha 1; only a flat one (a
    title) cannot be told from its own inverse, and is not taken for one.
    """
    full, clear = [], []
    for p in frames:
        rgb = np.stack([p[n] for n in RGB], -1)
        full.append(rgb[p["A"] >= 1 - 0.5 / top])
        clear.append(rgb[p["A"] <= 0.5 / top])
    there, away = np.concatenate(full), np.concatenate(clear)
    if len(there) < LEAST or len(away) < LEAST:
        return False
    flat = np.quantile(np.abs(there - np.median(there, axis=0)), 0.97) <= FLAT
    detail = np.abs(away - np.median(away, axis=0)).mean() >= DETAIL
    return bool(flat and detail)
