"""Grain: noise of a given size, other in every frame, the same again for the same seed and frame.

Added to straight colour, times alpha. ``tone`` 1 puts it in the middle of the tones only. Common practice,
no source.
"""

from __future__ import annotations

from functools import lru_cache
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..numeric.gaussian import gaussian
from ..numeric.jit import kernel
from ..numeric.pool import for_each, for_strips
from ..picture import RGB, Plane, PremultipliedPicture
from .base import Family, FieldStep, Triple, scaled

#: Rows whose grain is drawn at once, from a seed of their own.
_BAND = 64
#: Values of a plane that are kept: of viewer size, not of a whole frame.
_SMALL = 1 << 20


@kernel
def _grained(c, a, noise, out, amount, tone):  # type: ignore[no-untyped-def]
    """Grain on the surface, less of it on black and white; none where there is no surface."""
    one, zero, four = np.float32(1), np.float32(0), np.float32(4)
    for i in range(c.size):
        alpha = a[i]
        s = c[i] / (alpha if alpha > zero else one)
        middle = min(one, max(zero, four * s * (one - s)))
        weight = amount * (one - tone * (one - middle)) * alpha
        out[i] = c[i] + (weight * noise[i] if alpha > zero else zero)


class GrainStep(FieldStep):
    """Put grain on."""

    title: ClassVar[str] = "Grain"
    help: ClassVar[str] = "Puts moving grain on the surface."
    family: ClassVar[Family] = "light"

    by_frame: ClassVar[bool] = True

    kind: Literal["grain"] = "grain"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    amount: Triple = Field(
        (0.02, 0.02, 0.02), title="amount", description="Standard deviation, in light.",
        json_schema_extra={"unit": "rgb", "slider": [0, 0.2]},
    )  # fmt: skip
    size: float = Field(
        0.8, ge=0, le=20, title="size", description="Standard deviation of a grain.",
        json_schema_extra={"unit": "px", "slider": [0, 4]},
    )  # fmt: skip
    tone: float = Field(
        0.5, ge=0, le=1, title="mid tones", description="0 is even, 1 leaves black and white clean.",
        json_schema_extra={"slider": [0, 1]},
    )  # fmt: skip
    seed: int = Field(1, ge=0, le=1000000, title="seed", description="Another number, other grain.")

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        changed = {}
        for i, n in enumerate(RGB):
            if n.lower() in self.channels and self.amount[i] != 0:
                changed[n] = self._plane(picture, n, level, (self.seed, frame + 1000000, i))
        return picture.with_planes({**picture.planes, **changed})

    def _plane(self, picture: PremultipliedPicture, name: str, level: int, seed: tuple[int, ...]) -> Plane:
        """The plane with noise; of less variance at a level, where several grains make a pixel."""
        window, out = picture.data_window, np.empty_like(picture["A"])
        # counted from the frame, so that the grain does not move with the picture's borders
        area = picture.display_window.around(window)
        left, top = window.x0 - area.x0, window.y0 - area.y0
        sigma = scaled(self.size, level)
        line = gaussian(sigma) if sigma > 0.2 else np.ones(1, np.float32)
        reach = line.size // 2
        share = 1 / float((line.astype(float) ** 2).sum())
        if level:
            # a pixel of a draft is the mean of many; about so much of their spread is left
            share /= 1 + (4.0**level - 1) / (24 * max(self.size, 0.3) ** 2)
        noise = _rows(seed, top - reach, top + window.height + reach, area.width)
        amount = np.float32(share * self.amount[RGB.index(name)])

        def strip(y0: int, y1: int) -> None:
            part = noise[y0 : y1 + 2 * reach]
            if reach:
                part = np.asarray(cv2.sepFilter2D(part, -1, line, line, borderType=cv2.BORDER_REFLECT_101))
            rows = np.ascontiguousarray(part[reach : reach + y1 - y0, left : left + window.width])
            _grained(
                picture[name][y0:y1].reshape(-1), picture["A"][y0:y1].reshape(-1), rows.reshape(-1),
                out[y0:y1].reshape(-1), amount, np.float32(self.tone),
            )  # fmt: skip

        for_strips(window.height, window.width, strip)
        return out

    def words(self) -> str:
        return f"{max(self.amount):g}, {self.size:g} px"


def _rows(seed: tuple[int, ...], first: int, end: int, width: int) -> Plane:
    """Normal deviates of rows, which are the same whichever rows are asked for with them."""
    bands = range(first // _BAND, -(-end // _BAND))
    small = len(bands) * _BAND * width <= _SMALL
    values = (_kept if small else _drawn)(seed, bands, width)
    top = bands[0] * _BAND
    return values[first - top : end - top]


def _drawn(seed: tuple[int, ...], bands: range, width: int) -> Plane:
    values = np.empty((len(bands) * _BAND, width), np.float32)

    def draw(i: int) -> None:
        random = np.random.default_rng([*seed, bands[i] + 1000000])
        random.standard_normal(dtype=np.float32, out=values[i * _BAND : (i + 1) * _BAND])

    for_each(range(len(bands)), draw)
    values.flags.writeable = False
    return values


#: While a number is dragged the grain of its frame stays: drawing it takes longer than laying it on.
_kept = lru_cache(maxsize=9)(_drawn)
