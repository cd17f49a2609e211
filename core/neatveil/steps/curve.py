"""A tone curve: points, and a cubic through them that never overshoots; straight on beyond the ends.

Source: Fritsch & Butland 1984 [FritschButland1984]: the same cubic as of keys in time.
"""

from __future__ import annotations

from functools import cached_property
from itertools import pairwise
from typing import Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, field_validator

from ..animation.curve import hermite, monotone_slopes
from ..numeric.jit import kernel
from ..picture import Plane
from .value import ValueStep

_SIZE = 4096


@kernel
def _looked_up(x, out, table, low, scale, below, above):  # type: ignore[no-untyped-def]
    """A table between the first and the last point, straight lines of their slopes beyond."""
    last = table.size - 1
    zero, top = np.float32(0), np.float32(last)
    for i in range(x.size):
        at = (x[i] - low) * scale
        within = min(max(at, zero), top)
        index = min(np.int32(within), np.int32(last - 1))
        share = within - np.float32(index)
        y = table[index] + share * (table[index + 1] - table[index])
        out[i] = y + min(at, zero) * below + max(at - top, zero) * above


class CurveStep(ValueStep):
    """Bend values along a curve."""

    title: ClassVar[str] = "Curve"
    help: ClassVar[str] = "Bends values along a curve through points."
    fresh: ClassVar[dict[str, Any]] = {"space": "codes"}

    kind: Literal["curve"] = "curve"
    points: tuple[tuple[float, float], ...] = Field(
        ((0.0, 0.0), (1.0, 1.0)), min_length=2, max_length=64, title="points",
        description="From which value to which.", json_schema_extra={"unit": "curve"},
    )  # fmt: skip

    @field_validator("points")
    @classmethod
    def _rising(cls, points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
        for (a, _), (b, _) in pairwise(points):
            if b - a < 1e-6:
                raise ValueError(f"point at {b:g} does not come after {a:g}")
        if any(not -100 <= v <= 100 for p in points for v in p):
            raise ValueError("points lie within -100 and 100")
        return points

    @cached_property
    def _table(self) -> tuple[NDArray[np.float32], tuple[np.float32, ...]]:
        x, y = ([p[i] for p in self.points] for i in (0, 1))
        slopes = monotone_slopes(x, y)
        where = np.linspace(x[0], x[-1], _SIZE)
        index = np.clip(np.searchsorted(x, where, side="right") - 1, 0, len(x) - 2)
        table = np.empty(_SIZE, np.float32)
        for i, (t, k) in enumerate(zip(where, index, strict=True)):
            span = x[k + 1] - x[k]
            table[i] = hermite((t - x[k]) / span, y[k], y[k + 1], slopes[k] * span, slopes[k + 1] * span)
        step = (x[-1] - x[0]) / (_SIZE - 1)
        numbers = (x[0], 1 / step, slopes[0] * step, slopes[-1] * step)
        return table, tuple(np.float32(n) for n in numbers)

    def value(self, x: Plane, out: Plane) -> None:
        table, numbers = self._table
        _looked_up(x, out, table, *numbers)

    def words(self) -> str:
        return f"{len(self.points)} points"
