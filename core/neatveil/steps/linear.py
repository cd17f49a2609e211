"""Steps that are one matrix of the surface's R, G, B, A: a run of them is done in one pass.

Under an alpha that stays, a matrix needs no colour taken out of it: ``a * (M (c / a) + t) = M c + a t``. So
nothing is divided, and what is nearly transparent loses no digits.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGBA, Plane, PremultipliedPicture, new_planes
from .base import Flat
from .surface import share

_SAME = np.eye(4, 5)


@kernel
def _own_row(c, r, g, b, a, out, factor, add):  # type: ignore[no-untyped-def]
    """A channel from itself: NaN and infinity in another one stay there."""
    for i in range(out.size):
        k = share(r[i], g[i], b[i], a[i], a[i], np.float32(0))
        out[i] = factor * c[i] + add * k


@kernel
def _row(r, g, b, a, out, wr, wg, wb, wa, add):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        k = share(r[i], g[i], b[i], a[i], a[i], np.float32(0))
        out[i] = wr * r[i] + wg * g[i] + wb * b[i] + (wa * a[i] + add) * k


@kernel
def _new_alpha(r, g, b, a, out, wr, wg, wb, wa, add):  # type: ignore[no-untyped-def]
    """Coverage: within 0..1."""
    one, zero = np.float32(1), np.float32(0)
    for i in range(out.size):
        k = a[i] if a[i] > zero else one
        v = (wr * r[i] + wg * g[i] + wb * b[i]) / k + wa * a[i] + add
        v = zero if v < zero else v
        out[i] = one if v > one else v


@kernel
def _row_under(r, g, b, a, now, bare, out, wr, wg, wb, wa, add):  # type: ignore[no-untyped-def]
    one, zero = np.float32(1), np.float32(0)
    for i in range(out.size):
        k = a[i] if a[i] > zero else one
        s = (wr * r[i] + wg * g[i] + wb * b[i]) / k + wa * a[i] + add
        out[i] = s * share(r[i], g[i], b[i], a[i], now[i], bare)


@kernel
def _own_row_under(c, r, g, b, a, now, bare, out, factor, add):  # type: ignore[no-untyped-def]
    one, zero = np.float32(1), np.float32(0)
    for i in range(out.size):
        k = a[i] if a[i] > zero else one
        out[i] = (factor * c[i] / k + add) * share(r[i], g[i], b[i], a[i], now[i], bare)


@kernel
def _value_row(r, g, b, a, out, wr, wg, wb, wa, add):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = wr * r[i] + wg * g[i] + wb * b[i] + wa * a[i] + add


@kernel
def _own_value_row(c, out, factor, add):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = factor * c[i] + add


@dataclass(frozen=True, eq=False)
class Linear:
    """``(4, 5)`` float64: straight R, G, B and A from R, G, B, A and 1."""

    rows: NDArray[np.float64]
    #: Whether values count where neither surface nor light was, as far as the new alpha covers.
    bare: bool = False

    @classmethod
    def each(cls, channels: str, factor: ArrayLike, add: ArrayLike) -> Linear:
        """Every chosen channel, letters of "rgba", times its factor and plus its sum."""
        rows = _SAME.copy()
        factors, sums = np.broadcast_to(factor, 4), np.broadcast_to(add, 4)
        for i, letter in enumerate("rgba"):
            if letter in channels:
                rows[i, i], rows[i, 4] = factors[i], sums[i]
        return cls(rows)

    @classmethod
    def colour(cls, channels: str, matrix: NDArray[np.float64]) -> Linear:
        """The chosen of R, G and B by the rows of a ``(3, 3)`` matrix of R, G, B."""
        rows = _SAME.copy()
        for i, letter in enumerate("rgb"):
            if letter in channels:
                rows[i, :3] = matrix[i]
        return cls(rows)

    def then(self, after: Linear) -> Linear:
        """This one and ``after`` on its result."""
        square = np.vstack([self.rows, np.eye(1, 5, 4)])
        return Linear(after.rows @ square)

    def mixed(self, mix: float) -> Linear:
        return self if mix == 1 else Linear(_SAME + mix * (self.rows - _SAME))

    @cached_property
    def _numbers(self) -> list[tuple[np.float32, ...]]:
        return [tuple(np.float32(v) for v in row) for row in self.rows]

    @cached_property
    def _own(self) -> list[bool]:
        """Whether a row asks no other channel than its own."""
        return [not np.delete(row[:4], i).any() for i, row in enumerate(self.rows)]

    @cached_property
    def changed(self) -> list[bool]:
        """Whether R, G, B, A come out other than they were; the rest keep every bit."""
        return [not np.array_equal(row, same) for row, same in zip(self.rows, _SAME, strict=True)]

    def values(self, given: Flat, scratch: Flat) -> Flat:
        """On straight values, as `PointStep.values`."""
        done = list(given)
        for i, numbers in enumerate(self._numbers):
            if not self.changed[i]:
                continue
            if self._own[i]:
                _own_value_row(given[i], scratch[i], numbers[i], numbers[4])
            else:
                _value_row(*given, scratch[i], *numbers)
            done[i] = scratch[i]
        return done

    def direct(self, given: Flat, out: Flat) -> Flat:
        """On premultiplied planes in one pass, as `PointStep.direct`; ``out`` is not ``given``."""
        anew = self.changed[3]
        done = list(given)
        ends: tuple[Plane | np.float32, ...] = tuple(given)
        if anew:
            _new_alpha(*given, out[3], *self._numbers[3])
            ends = (*given, out[3], np.float32(self.bare))
            done[3] = out[3]
        for i in range(3):
            if not anew and not self.changed[i]:
                continue
            numbers = self._numbers[i]
            if self._own[i]:
                row = _own_row_under if anew else _own_row
                row(given[i], *ends, out[i], numbers[i], numbers[4])
            else:
                row = _row_under if anew else _row
                row(*ends, out[i], *numbers)
            done[i] = out[i]
        return done

    def picture(self, given: PremultipliedPicture) -> PremultipliedPicture:
        """On a whole picture, in strips; planes that stay are the given ones."""
        height, width = given["A"].shape
        names = [n for n, changed in zip(RGBA, self.changed, strict=True) if changed or self.changed[3]]
        planes = {**given.planes, **new_planes(names, height, width)}

        def strip(y0: int, y1: int) -> None:
            self.direct(*([some[n][y0:y1].reshape(-1) for n in RGBA] for some in (given.planes, planes)))

        for_strips(height, width, strip)
        return given.with_planes(planes)
