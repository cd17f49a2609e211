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

from ..animation.curve import monotone_slopes
from ..numeric.jit import kernel
from ..picture import Plane
from .base import Flat
from .surface import PART, out_of_alpha, shares, times
from .value import ValueStep


@kernel
def _beyond(x, out, numbers):  # type: ignore[no-untyped-def]
    """The first point's value, and the straight lines before the first and after the last point."""
    first, last, start, below, above = numbers[0], numbers[1], numbers[2], numbers[3], numbers[4]
    zero = np.float32(0)
    for i in range(x.size):
        before, after = x[i] - first, x[i] - last
        out[i] = (
            start + below * (zero if before > zero else before) + above * (after if after > zero else zero)
        )


@kernel
def _between(x, out, numbers):  # type: ignore[no-untyped-def]
    """What the cubic between two points adds: nothing before the first, its whole rise after the second."""
    first, inverse, one, two, three = numbers[0], numbers[1], numbers[2], numbers[3], numbers[4]
    zero, top = np.float32(0), np.float32(1)
    for i in range(x.size):
        u = (x[i] - first) * inverse
        u = u if u > zero else zero
        u = u if u < top else top
        out[i] += ((three * u + two) * u + one) * u


@kernel
def _curved(x, out, numbers):  # type: ignore[no-untyped-def]
    for start in range(0, x.size, PART):
        some, into = x[start : start + PART], out[start : start + PART]
        _beyond(some, into, numbers[0])
        for k in range(1, numbers.shape[0]):
            _between(some, into, numbers[k])


@kernel
def _curved_under(r, g, b, a, chosen, out_r, out_g, out_b, numbers):  # type: ignore[no-untyped-def]
    """Out of the alpha, along the curve, into it again in one pass."""
    scratch = np.empty((3, PART), np.float32)
    for start in range(0, a.size, PART):
        part = slice(start, start + PART)
        under = a[part]
        k, x, y = scratch[0, : under.size], scratch[1, : under.size], scratch[2, : under.size]
        shares(r[part], g[part], b[part], under, k)
        for c, out, wanted in ((r, out_r, chosen[0]), (g, out_g, chosen[1]), (b, out_b, chosen[2])):
            if wanted:
                out_of_alpha(c[part], under, x)
                _curved(x, y, numbers)
                times(y, k, out[part])


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
    def _numbers(self) -> NDArray[np.float32]:
        """``(points, 5)``: what `_beyond` takes, then what `_between` takes for every two points."""
        x, y = (np.array([p[i] for p in self.points]) for i in (0, 1))
        slopes = np.array(monotone_slopes(list(x), list(y)))
        span, rise = np.diff(x), np.diff(y)
        one, two = slopes[:-1] * span, slopes[1:] * span
        between = np.stack([x[:-1], 1 / span, one, 3 * rise - 2 * one - two, one + two - 2 * rise], axis=1)
        return np.vstack([[x[0], x[-1], y[0], slopes[0], slopes[-1]], between]).astype(np.float32)

    def value(self, x: Plane, out: Plane) -> None:
        _curved(x, out, self._numbers)

    def direct(self, given: Flat, out: Flat) -> Flat | None:
        if self.space != "light" or "a" in self.channels:
            return None
        chosen = tuple(letter in self.channels for letter in "rgb")
        _curved_under(*given, chosen, *out[:3], self._numbers)
        return [*(o if c else g for o, g, c in zip(out, given, chosen, strict=False)), given[3]]

    def words(self) -> str:
        return f"{len(self.points)} points"
