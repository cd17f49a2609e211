"""A number over time: keys on frames, and what stands between and beyond them.

``hold`` keeps a key's value until the next; ``linear`` is a straight line to it; ``smooth`` a cubic that
passes every key without overshooting, as of Fritsch and Carlson; ``eased`` one that rests at both keys.

Source: Fritsch & Butland 1984 [FritschButland1984]: slopes of the monotone cubic.
"""

from __future__ import annotations

from bisect import bisect_right
from functools import cached_property
from itertools import pairwise
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

Beyond = Literal["hold", "loop", "ping-pong"]


class Key(BaseModel):
    """A value at a frame of the comp, and how it goes on from there to the next key."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    frame: float = Field(ge=-1000000, le=1000000)
    value: float = Field(ge=-1e9, le=1e9)
    way: Literal["hold", "linear", "smooth", "eased"] = "smooth"


class Curve(BaseModel):
    """Keys in the order of their frames.

    ``beyond``: before the first and after the last key their values are held, or all is repeated (``loop``),
    or repeated there and back (``ping-pong``).
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    keys: tuple[Key, ...] = Field(min_length=1, max_length=100000)
    beyond: Beyond = "hold"

    @field_validator("keys")
    @classmethod
    def _in_order(cls, keys: tuple[Key, ...]) -> tuple[Key, ...]:
        for before, after in pairwise(keys):
            if after.frame <= before.frame:
                raise ValueError(f"key at frame {after.frame:g} does not come after {before.frame:g}")
        return keys

    @cached_property
    def _frames(self) -> list[float]:
        return [k.frame for k in self.keys]

    @cached_property
    def _slopes(self) -> list[float]:
        return monotone_slopes(self._frames, [k.value for k in self.keys])

    def at(self, frame: float) -> float:
        """The value at a frame, whole or not.

        >>> Curve(keys=(Key(frame=1, value=0, way="linear"), Key(frame=5, value=2))).at(3)
        1.0
        """
        t = self._folded(frame)
        index = bisect_right(self._frames, t) - 1
        if index < 0:
            return self.keys[0].value
        key = self.keys[index]
        if index == len(self.keys) - 1 or key.way == "hold":
            return key.value
        after = self.keys[index + 1]
        span = after.frame - key.frame
        share = (t - key.frame) / span
        if key.way == "linear":
            return key.value + share * (after.value - key.value)
        if key.way == "eased":
            return hermite(share, key.value, after.value, 0, 0)
        ends = (self._slopes[index] * span, self._slopes[index + 1] * span)
        return hermite(share, key.value, after.value, *ends)

    def _folded(self, frame: float) -> float:
        """The frame within the keys that stands for one beyond them."""
        first, last = self._frames[0], self._frames[-1]
        span = last - first
        if self.beyond == "hold" or span == 0 or first <= frame <= last:
            return frame
        turns, rest = divmod(frame - first, span)
        return last - rest if self.beyond == "ping-pong" and int(turns) % 2 else first + rest


def hermite(t: float, y0: float, y1: float, d0: float, d1: float) -> float:
    """The cubic through two values with two slopes, ``t`` from 0 to 1."""
    u = 1 - t
    return y0 * u * u * (1 + 2 * t) + d0 * t * u * u + y1 * t * t * (1 + 2 * u) - d1 * t * t * u


def monotone_slopes(x: list[float], y: list[float]) -> list[float]:
    """Slopes at the points of a cubic that never leaves the range between two neighbours.

    Within: the weighted harmonic mean of the slopes beside a point, 0 at a turn. At the ends: three points,
    kept from turning back.
    """
    count = len(x)
    if count == 1:
        return [0.0]
    h = [b - a for a, b in pairwise(x)]
    d = [(b - a) / w for a, b, w in zip(y, y[1:], h, strict=False)]
    if count == 2:
        return [d[0], d[0]]
    inner = []
    for i in range(1, count - 1):
        if d[i - 1] * d[i] <= 0:
            inner.append(0.0)
            continue
        w1, w2 = 2 * h[i] + h[i - 1], h[i] + 2 * h[i - 1]
        inner.append((w1 + w2) / (w1 / d[i - 1] + w2 / d[i]))
    return [_end(h[0], h[1], d[0], d[1]), *inner, _end(h[-1], h[-2], d[-1], d[-2])]


def _end(h0: float, h1: float, d0: float, d1: float) -> float:
    slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1)
    if slope * d0 <= 0:
        return 0.0
    return 3 * d0 if d0 * d1 <= 0 and abs(slope) > 3 * abs(d0) else slope
