"""Pairs of near pixels with different alpha: what a reading says of them can be checked.

Inside one surface the straight colour hardly changes from a pixel to the next, while at its edge the
alpha does. So from a pixel ``p`` and the alpha of its neighbour ``q`` each reading foretells the
stored colour of ``q``: straight says that it is the same; premultiplied over M says that it moves
toward M as the alpha falls. The reading that foretells best is the likely one.
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
MOST = 20_000
TILE = 16


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
            return cls(
                none, none, none, none[:, 0], none[:, 0], np.zeros(0, np.int32), np.zeros(0, np.int64)
            )
        return cls(*(np.concatenate([getattr(p, f) for p in many]) for f in cls.__slots__))


def pairs_of(picture: StoredPicture, ground: Mapping[str, Values] | None, number: int = 0) -> Pairs:
    """The pairs of a picture with R, G, B and A.

    ``ground``: R, G, B of the nearest clear ground, as `nearest_ground` gives; ``number``: of the
    picture, where there are several.
    """
    alpha = np.clip(picture["A"], 0, 1)
    rows = np.flatnonzero(((alpha > LEAST_LOW) & (alpha < 1)).any(axis=1))
    if rows.size == 0:
        return Pairs.joined([])
    top = max(int(rows[0]) - STEPS[-1], 0)
    part = slice(top, int(rows[-1]) + STEPS[-1] + 1)
    alpha = np.ascontiguousarray(alpha[part])
    colour = [np.ascontiguousarray(picture[n][part]).reshape(-1) for n in RGB]
    under = None if ground is None else [ground[n][part].reshape(-1) for n in RGB]
    found = []
    for index, (dy, dx) in enumerate((y * s, x * s) for s in STEPS for y, x in ((0, 1), (1, 0))):
        p, q = _places(alpha, dy, dx)
        if p.size == 0:
            continue
        flat, width = alpha.reshape(-1), alpha.shape[1]
        tiles = (p // width + top) // TILE * 4096 + p % width // TILE + number * (1 << 32)
        found.append(
            Pairs(
                np.stack([c[p] for c in colour], 1), np.stack([c[q] for c in colour], 1),
                np.full((p.size, 3), np.nan, np.float32) if under is None
                else np.stack([c[q] for c in under], 1),
                flat[p], flat[q], np.full(p.size, index, np.int32), tiles.astype(np.int64),
            )  # fmt: skip
        )
    return Pairs.joined(found)


def _places(alpha: Values, dy: int, dx: int) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Flat indices of the denser and the clearer pixels, this step apart."""
    height, width = alpha.shape
    if height <= dy or width <= dx:
        none = np.zeros(0, np.int64)
        return none, none
    a, b = alpha[: height - dy, : width - dx], alpha[dy:, dx:]
    low, high = np.minimum(a, b), np.maximum(a, b)
    chosen = (high - low >= LEAST_STEP) & (low >= LEAST_LOW) & (high >= LEAST_HIGH)
    y, x = np.nonzero(chosen)
    if y.size > MOST:
        every = np.linspace(0, y.size - 1, MOST).astype(np.int64)
        y, x = y[every], x[every]
    one, other = y * width + x, (y + dy) * width + x + dx
    swap = a[y, x] < b[y, x]
    return np.where(swap, other, one), np.where(swap, one, other)
