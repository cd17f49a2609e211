"""Test patterns: colour bars, a ramp, a zone plate, a checkerboard."""

from __future__ import annotations

from itertools import pairwise
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..colour import decode
from ..picture import RGBA, Plane, PremultipliedPicture
from .base import Canvas, Colour, Made, colour_field

#: White, yellow, cyan, green, magenta, red, blue, black: ITU-R BT.471-1 [BT471].
BARS = ((1, 1, 1), (1, 1, 0), (0, 1, 1), (0, 1, 0), (1, 0, 1), (1, 0, 0), (0, 0, 1), (0, 0, 0))

_CODES: dict[str, str] = {"rec709": "BT.709", "srgb": "sRGB", "linear": "Light"}


def _codes_field(default: str) -> object:
    return Field(
        default, title="levels of", description="Which code values are even.",
        json_schema_extra={"labels": {**_CODES}},
    )  # fmt: skip


def _opaque(canvas: Canvas, rgb: list[Plane]) -> PremultipliedPicture:
    frame = canvas.frame
    shape = frame.height, frame.width
    planes = [np.ascontiguousarray(np.broadcast_to(p.astype(np.float32), shape)) for p in rgb]
    planes.append(np.ones(shape, np.float32))
    return PremultipliedPicture(dict(zip(RGBA, planes, strict=True)), frame, frame)


def _covered(start: float, end: float, count: int) -> Plane:
    """``(count,)``: the share of each pixel in a row that lies between two places."""
    at = np.arange(count)
    return np.asarray(np.clip(np.minimum(at + 1, end) - np.maximum(at, start), 0, 1), np.float32)


class BarsMade(Made):
    """Colour bars."""

    title: ClassVar[str] = "Colour bars"
    help: ClassVar[str] = "Eight bars after ITU-R BT.471."

    kind: Literal["bars"] = "bars"
    level: float = Field(
        0.75, ge=0, le=1, title="level", description="Of the colours; white and black are full.",
        json_schema_extra={"unit": "%"},
    )  # fmt: skip
    codes: Literal["rec709", "srgb", "linear"] = _codes_field("rec709")  # type: ignore[assignment]

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        edges = np.linspace(0, canvas.width * canvas.share, len(BARS) + 1)
        rows = [_covered(a, b, canvas.frame.width) for a, b in pairwise(edges)]
        full = np.array(BARS, np.float32)
        full[1:7] *= self.level
        light = decode(full, self.codes)
        return _opaque(canvas, [np.asarray(np.array(rows).T @ light[:, c])[None] for c in range(3)])

    def words(self) -> str:
        return f"bars of {100 * self.level:g} %"


class RampMade(Made):
    """From black to white."""

    title: ClassVar[str] = "Ramp"
    help: ClassVar[str] = "From black on the left to white on the right, in even steps."

    kind: Literal["ramp"] = "ramp"
    codes: Literal["rec709", "srgb", "linear"] = _codes_field("linear")  # type: ignore[assignment]

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        across = (np.arange(canvas.frame.width) + 0.5) / (canvas.width * canvas.share)
        code = np.clip(across, 0, 1).astype(np.float32)[None]
        return _opaque(canvas, [decode(code, self.codes)] * 3)

    def words(self) -> str:
        return f"even in {_CODES[self.codes]}"


class ZonePlateMade(Made):
    """Rings that grow finer outwards."""

    title: ClassVar[str] = "Zone plate"
    help: ClassVar[str] = "Rings, the finer the farther out: shows what resampling loses or makes up."

    kind: Literal["zone_plate"] = "zone_plate"
    finest: float = Field(
        2.0, ge=0.5, le=1000, title="finest", description="Length of a ring at the nearest edge; 2 is a "
        "pixel of light and one of dark.", json_schema_extra={"unit": "px", "slider": [1, 16]},
    )  # fmt: skip

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        # seen smaller it is its own mean: drawn in full, then averaged
        times = 2 ** max(0, canvas.level)
        fine = Canvas(canvas.width, canvas.height, min(0, canvas.level))
        f = canvas.frame
        x = (np.arange(f.width * times) + 0.5 - fine.middle[0]) / fine.share
        y = ((np.arange(f.height * times) + 0.5 - fine.middle[1]) / fine.share)[:, None]
        reach = min(canvas.width, canvas.height) / 2
        # the phase's slope, the frequency, is 2 pi / finest at the edge
        grey = 0.5 + 0.5 * np.cos(np.pi / (self.finest * reach) * (x * x + y * y))
        mean = grey.reshape(f.height, times, f.width, times).mean((1, 3))
        return _opaque(canvas, [mean] * 3)

    def words(self) -> str:
        return f"rings down to {self.finest:g} px"


class CheckerboardMade(Made):
    """Squares of two colours."""

    title: ClassVar[str] = "Checkerboard"
    help: ClassVar[str] = "Squares of two colours by turns, from the upper left corner."

    kind: Literal["checkerboard"] = "checkerboard"
    square: float = Field(
        64.0, ge=0.5, le=10000, title="square", json_schema_extra={"unit": "px", "slider": [1, 256]}
    )
    colour: Colour = colour_field("first", default=(0.5, 0.5, 0.5))
    other: Colour = colour_field("second", default=(0.1, 0.1, 0.1))

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        side = self.square * canvas.share
        f = canvas.frame
        # the mean of +1 and -1 by turns over each pixel: exact, however small the squares are
        across, down = _turns(f.width, side), _turns(f.height, side)
        share = 0.5 + 0.5 * across * down[:, None]
        return _opaque(canvas, [o + share * (c - o) for c, o in zip(self.colour, self.other, strict=True)])

    def words(self) -> str:
        return f"squares of {self.square:g} px"


def _turns(count: int, side: float) -> Plane:
    """``(count,)`` means over pixels of +1 and -1 that change every ``side``."""
    edges = np.arange(count + 1) / side
    ramp = 1 - np.abs(edges % 2 - 1)  # the integral: up for one side, down for the next
    return np.asarray(np.diff(ramp) * side)
