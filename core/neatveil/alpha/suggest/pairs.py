"""Pairs of near pixels with different alpha: what a reading says of them can be checked.

Inside one surface the straight colour hardly changes from a pixel to the next, while at its edge the
alpha does. So from a pixel ``p`` and the alpha of its neighbour ``q`` each reading predicts the
stored colour of ``q``: straight says that it is the same; premultiplied over M says that it moves
toward M as the alpha falls. The reading that predicts best is the likely one.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...picture import RGB, StoredPicture

Values = NDArray[np.float32]

#: Steps between the pixels of a pair: short ones for hair, long ones for soft edges.
STEPS = (1, 2, 4, 8)
#: Least difference of alpha within a pair; least alpha of its clearer and of its denser pixel.
LEAST_STEP, LEAST_LOW, LEAST_HIGH = 0.08, 0.03, 0.2
#: Most pairs looked at for one step and direction: more would tell nothing new.
MOST = 8_000
TILE = 16
#: A tile's number: its frame, its row and its column, in these units.
TILE_FRAME, TILE_ROW = 1 << 32, 4096


@dataclass(frozen=True, slots=True)
class Pairs:
    """N pairs. ``cp``, ``cq``: stored R, G, B ``(N, 3)`` of the denser and the clearer pixel; ``bq``: of
    the clear ground nearest to the clearer one, NaN where there is none; ``ap``, ``aq``: their alpha
    ``(N,)``; ``group``: which step and direction; ``tile``: where, for telling how many of them are
    independent. All code values, not clamped."""

    cp: Values
    cq: Values
    bq: Values
    ap: Values
    aq: Values
    group: NDArray[np.int32]
    tile: NDArray[np.int64]

    @property
    def count(self) -> int:
        return len(self.ap)

    @classmethod
    def joined(cls, many: list[Pairs]) -> Pairs:
        if not many:
            none = np.zeros((0, 3), np.float32)
            return cls(none, none, none, none[:, 0], none[:, 0], np.zeros(0, np.int32), np.zeros(0, np.int64))
        return cls(*(np.concatenate([getattr(p, f) for p in many]) for f in cls.__slots__))


def pairs_of(picture: StoredPicture, ground: Mapping[str, Values] | None, number: int = 0) -> Pairs:
    """The pairs of a picture with R, G, B and A.

    ``ground``: R, G, B of the nearest clear ground, as `nearest_ground` gives; ``number``: of the
    picture, where there are several.
    """
    alpha = np.clip(picture["A"], 0, 1)
    height, width = alpha.shape
    flat = alpha.reshape(-1)
    # the clearer pixel of a pair is partly covered: only those are gone through
    band = np.flatnonzero((flat >= LEAST_LOW) & (flat <= 1 - LEAST_STEP))
    colour = [np.ascontiguousarray(picture[n]).reshape(-1) for n in RGB]
    under = None if ground is None else [ground[n].reshape(-1) for n in RGB]
    found = []
    for step in STEPS:
        for group, (dy, dx) in enumerate(((0, step), (step, 0)), start=2 * STEPS.index(step)):
            sides = [_denser(flat, band, height, width, y, x) for y, x in ((dy, dx), (-dy, -dx))]
            p = np.concatenate([one for one, _ in sides])
            q = np.concatenate([other for _, other in sides])
            if p.size > MOST:
                every = np.linspace(0, p.size - 1, MOST).astype(np.int64)
                p, q = p[every], q[every]
            nowhere = np.full((p.size, 3), np.nan, np.float32)
            bq = nowhere if under is None else np.stack([c[q] for c in under], 1)
            cp, cq = (np.stack([c[i] for c in colour], 1) for i in (p, q))
            tiles = q // width // TILE * TILE_ROW + q % width // TILE + number * TILE_FRAME
            found.append(Pairs(cp, cq, bq, flat[p], flat[q], np.full(p.size, group, np.int32), tiles))
    return Pairs.joined(found)


def _denser(
    alpha: Values, band: NDArray[np.int64], height: int, width: int, dy: int, dx: int
) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Flat indices of neighbours this far away that are denser by enough, and of the band's own pixels."""
    y, x = band // width, band % width
    inside = (y + dy >= 0) & (y + dy < height) & (x + dx >= 0) & (x + dx < width)
    clearer = band[inside]
    denser = clearer + dy * width + dx
    high = alpha[denser]
    chosen = (high - alpha[clearer] >= LEAST_STEP) & (high >= LEAST_HIGH)
    return denser[chosen], clearer[chosen]


def coarser(tile: NDArray[np.int64], across: int) -> NDArray[np.int64]:
    """The tiles' numbers where ``across`` by ``across`` of them are one."""
    frame, place = np.divmod(tile, TILE_FRAME)
    row, column = np.divmod(place, TILE_ROW)
    merged: NDArray[np.int64] = frame * TILE_FRAME + row // across * TILE_ROW + column // across
    return merged
