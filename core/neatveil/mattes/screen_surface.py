"""An uneven card evened out: the surface of its brightness, found around what stands before it.

A surface of second order is fitted by least squares to what is surely card; pixels that lie far below it hold
something else, or a crease, and are left out the next time. Common practice, no source.
"""

from __future__ import annotations

import numpy as np

from ..errors import ValueRefused
from ..picture import Plane

#: Share of the picked colour's difference from which a pixel may be card.
_CARD = 0.35
_ROUNDS = 4
#: Pixels that are looked at, at most, and those that there must be.
_MOST, _FEWEST = 20000, 60


def surface_of(excess: Plane, whole: float) -> tuple[float, ...]:
    """Factors of 1, x, y, x x, x y, y y, with x and y from -1 to 1 over the picture.

    ``excess``: ``(H, W)`` the screen's channel less the limit of the others; ``whole``: that of the picked
    colour.

    Raises
    ------
    ValueRefused : too little of the picture is card.
    """
    height, width = excess.shape
    rows, columns = np.nonzero((excess > _CARD * whole) & (excess < 3 * whole))
    if len(rows) < _FEWEST:
        raise ValueRefused(
            "The picture shows too little of the screen colour to even it out.",
            advice="Pick the screen colour again, or take the screen as even.",
        )
    step = max(1, len(rows) // _MOST)
    rows, columns = rows[::step], columns[::step]
    x, y = 2 * (columns + 0.5) / width - 1, 2 * (rows + 0.5) / height - 1
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=1)
    values = excess[rows, columns].astype(np.float64)
    kept = np.ones(len(values), bool)
    factors = np.zeros(6)
    for _ in range(_ROUNDS):
        factors = np.linalg.lstsq(terms[kept], values[kept], rcond=None)[0]
        away = values - terms @ factors
        spread = max(1.4826 * float(np.median(np.abs(away[kept]))), 1e-4 * whole)
        closer = (away > -2 * spread) & (away < 3 * spread)
        if closer.sum() < _FEWEST:
            break
        kept = closer
    return tuple(float(v) for v in factors)
