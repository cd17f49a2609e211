"""A nearly inverse of a matte's system, from an incomplete factor that is made in parts side by side.

The unknown pixels are put in order so that bands of rows come first, each apart from the next by two rows
that come last (nested dissection, George 1973 [George1973]): a neighbourhood is 3 x 3, so that no pixel of a
band is in an equation with one of another. So the bands' columns are made at the same time, and only those of
the rows between them after one another. What is left out of the factor is what lies below a threshold, as in
PyMatting's `ichol`, which makes its columns one after another.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..numeric.pool import for_each
from .factor_loops import DONE, FULL, NOT_POSITIVE, back, columns, forth, join

#: Bands of rows, whatever the number of processors: the same picture gives the same matte everywhere.
BANDS = 4
#: As many unknown pixels, and fewer, are one band.
ONE_BAND = 20_000
#: Rows between two bands.
BETWEEN = 2
#: Values of the factor that are less are left out. Larger ones save nothing: it fails, and is tried again.
THRESHOLD = 1e-3
#: What is added to the diagonal, one after another, until there is a factor.
SHIFTS = (0.0, 1e-4, 1e-3, 1e-2, 0.1, 0.5, 1.0, 10.0)
#: Values of the factor for each of the system's that there is room for; twice as many where it is not enough.
ROOM = 2

Numbers = NDArray[np.float64]
Indices = NDArray[np.intp]


@dataclass(frozen=True)
class Order:
    """Unknown pixels in the order in which they are solved for.

    Parameters
    ----------
    pixels : their numbers in the flattened picture.
    ends : where each band ends in ``pixels``; behind the last come the rows between them.
    """

    pixels: Indices
    ends: tuple[int, ...]


def order_of(unknown: NDArray[np.bool_]) -> Order:
    """Bands of about as many unknown pixels each. ``unknown``: ``(H, W)``."""
    counts = np.cumsum(unknown.sum(1))
    total = int(counts[-1])
    flat = np.flatnonzero(unknown)
    if total <= ONE_BAND:
        return Order(flat, (total,))
    cuts = sorted({int(np.searchsorted(counts, total * k / BANDS)) for k in range(1, BANDS)})
    rows = flat // unknown.shape[1]
    band, between = np.zeros(len(flat), np.intp), np.zeros(len(flat), bool)
    for cut in cuts:
        band += rows >= cut
        between |= (rows >= cut) & (rows < cut + BETWEEN)
    parts = [flat[(band == k) & ~between] for k in range(len(cuts) + 1)]
    ends = np.cumsum([len(p) for p in parts])
    return Order(np.concatenate([*parts, flat[between]]), tuple(int(e) for e in ends))


@dataclass(frozen=True)
class Factor:
    """L of a system's L Lᵀ, nearly; called with a vector it gives nearly the solution for it.

    ``begin``, ``end``: of each column in ``values`` and ``rows``, its diagonal first.
    """

    ends: tuple[int, ...]
    values: NDArray[np.float32]
    rows: NDArray[np.int32]
    begin: NDArray[np.int64]
    end: NDArray[np.int64]

    def __call__(self, given: Numbers) -> Numbers:
        x = given.copy()
        size, last = len(x), self.ends[-1]
        held = self.values, self.rows, self.begin, self.end
        bands = list(pairwise((0, *self.ends)))
        borders = [np.zeros(size - last) for _ in bands]
        for_each(range(len(bands)), lambda k: forth(*bands[k], *held, x, borders[k], last))
        x[last:] += sum(borders)
        forth(last, size, *held, x, borders[0], size)
        back(last, size, *held, x)
        for_each(range(len(bands)), lambda k: back(*bands[k], *held, x))
        return x


def factor_of(system: Any, ends: tuple[int, ...]) -> Factor:
    """The factor of a symmetric, positive system.

    Parameters
    ----------
    system : SciPy's sparse matrix by columns (CSC), ``(N, N)``, no two values of the same place.
    ends : as of `Order`.

    Raises
    ------
    ValueError
        It is far from positive.
    """
    given = system.data, system.indices.astype(np.int32), system.indptr.astype(np.int64)
    room = ROOM
    for shift in SHIFTS:
        found, state = _tried(given, ends, shift, room)
        while state == FULL:
            room *= 2
            found, state = _tried(given, ends, shift, room)
        if state == DONE:
            return found
    raise ValueError("the system of a matte is not positive")


def _tried(
    given: tuple[Numbers, NDArray[np.int32], NDArray[np.int64]],
    ends: tuple[int, ...],
    shift: float,
    room: int,
) -> tuple[Factor, int]:
    """The factor, and how it ended: if one part of it has not positive numbers, so."""
    starts = given[2]
    size, last = len(starts) - 1, ends[-1]
    bounds = [*pairwise((0, *ends)), (last, size)]
    rooms = [0, *np.cumsum([room * int(starts[b] - starts[a]) + b - a for a, b in bounds])]
    values, rows = np.empty(rooms[-1], np.float32), np.empty(rooms[-1], np.int32)
    begin, end, following = (np.zeros(size, np.int64) for _ in range(3))
    diagonals = [np.full(size, shift) for _ in ends]
    chains = [np.full(size, -1, np.int32) for _ in ends]
    states = np.full((len(bounds), 1), DONE)

    def make(k: int, diagonal: Numbers, chain: NDArray[np.int32]) -> None:
        columns(
            *bounds[k], *given, values, rows, begin, end, following, rooms[k], rooms[k + 1], diagonal, chain,
            THRESHOLD, states[k],
        )  # fmt: skip

    for_each(range(len(ends)), lambda k: make(k, diagonals[k], chains[k]))
    if (states == DONE).all():
        # what all bands have taken from the rows between them, and which of their columns reach there
        for more, other in zip(diagonals[1:], chains[1:], strict=True):
            diagonals[0][last:] += more[last:] - shift
            join(chains[0], other, last)
        make(len(ends), diagonals[0], chains[0])
    state = NOT_POSITIVE if (states == NOT_POSITIVE).any() else int(states.max())
    return Factor(ends, values, rows, begin, end), state
