"""Brush strokes as vectors: lines through points, with a size, a softness and a grey value."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Self

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..numeric.jit import kernel
from ..picture import Plane
from .outline import box_around, squared_distances


class Stroke(BaseModel):
    """``points``: x, y by turns, pixels of the full picture from its centre."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    points: tuple[float, ...] = Field(min_length=2, max_length=4000, title="points")
    size: float = Field(40.0, gt=0, le=10000, title="size", description="Its width in pixels.")
    soft: float = Field(0.3, ge=0, le=1, title="soft", description="Share of its half width that fades.")
    value: float = Field(1.0, ge=0, le=1, title="value", description="1 keeps, 0 removes.")
    erase: bool = Field(False, title="erases", description="Takes strokes before it away.")
    first: int | None = Field(None, title="from", description="First comp frame; None from the start on.")
    last: int | None = Field(None, title="to", description="Last comp frame, inclusive; None to the end.")

    @model_validator(mode="after")
    def _pairs(self) -> Self:
        if len(self.points) % 2:
            raise ValueError("a stroke's points are x and y by turns; one is left over")
        if not all(abs(v) <= 1e6 for v in self.points):
            raise ValueError("a stroke's points lie within a million pixels of the centre")
        if self.first is not None and self.last is not None and self.last < self.first:
            raise ValueError(f"a stroke's last frame {self.last} lies before its first {self.first}")
        return self

    def shows(self, frame: float) -> bool:
        return (self.first is None or frame >= self.first) and (self.last is None or frame <= self.last)


@kernel
def _painted(squared, radius, edge, value, erase, grey, cover):  # type: ignore[no-untyped-def]
    one, zero, half = np.float32(1), np.float32(0), np.float32(0.5)
    for row in range(squared.shape[0]):
        for i in range(squared.shape[1]):
            t = (radius + half - np.sqrt(squared[row, i])) / edge
            if t <= zero:
                continue
            t = min(t, one)
            if edge > one:
                t = t * t * (np.float32(3) - np.float32(2) * t)
            left = one - t
            grey[row, i] = grey[row, i] * left + (zero if erase else t * value)
            cover[row, i] = cover[row, i] * left + (zero if erase else t)


def painted(strokes: Iterable[Stroke], height: int, width: int, level: int) -> tuple[Plane, Plane]:
    """What strokes leave behind, laid one over another.

    Returns
    -------
    grey, cover : ``(H, W)`` of the level; the grey is multiplied by the cover.
    """
    share = 2.0**-level
    grey, cover = (np.zeros((height, width), np.float32) for _ in range(2))
    middle = np.array([width / 2, height / 2])
    for stroke in strokes:
        points = np.array(stroke.points).reshape(-1, 2) * share + middle
        radius = stroke.size * share / 2
        x0, y0, x1, y1 = box = box_around(points, radius + 1, height, width)
        if x0 == x1 or y0 == y1:
            continue
        squared = squared_distances([points], radius + 1, box, closed=False)
        edge = np.float32(max(1.0, stroke.soft * radius))
        where = slice(y0, y1), slice(x0, x1)
        _painted(
            squared,
            np.float32(radius),
            edge,
            np.float32(stroke.value),
            stroke.erase,
            grey[where],
            cover[where],
        )
    return grey, cover
