"""Grain: noise of a given size, other in every frame, the same again for the same seed and frame.

Added to straight colour, times alpha. ``tone`` 1 puts it in the middle of the tones only. Common practice,
no source.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import RGB, Box, Plane, PremultipliedPicture
from .base import Family, FieldStep, Triple, scaled
from .blur import gaussian


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
        window, alpha = picture.data_window, picture["A"]
        changed = {}
        for i, n in enumerate(RGB):
            if n.lower() not in self.channels or self.amount[i] == 0:
                continue
            straight = np.divide(picture[n], alpha, out=np.zeros_like(alpha), where=alpha > 0)
            middle = np.clip(4 * straight * (1 - straight), 0, 1)
            weight = np.float32(self.amount[i]) * (1 - np.float32(self.tone) * (1 - middle)) * alpha
            noise = self._noise(window, picture.display_window, level, [self.seed, frame + 1000000, i])
            changed[n] = picture[n] + weight * noise
        return picture.with_planes({**picture.planes, **changed})

    def _noise(self, window: Box, frame: Box, level: int, seed: list[int]) -> Plane:
        """Of variance 1 at full size and of less at a level, where several grains make a pixel."""
        area = frame.around(window)
        values = np.random.default_rng(seed).standard_normal((area.height, area.width), np.float32)
        sigma = scaled(self.size, level)
        if sigma > 0.2:
            line = gaussian(sigma)
            values = np.asarray(cv2.sepFilter2D(values, -1, line, line, borderType=cv2.BORDER_REFLECT_101))
            values /= np.float32((line.astype(float) ** 2).sum())
        if level:
            # a pixel of a draft is the mean of many; about so much of their spread is left
            width = 4.0**level
            values *= np.float32(1 / (1 + (width - 1) / (24 * max(self.size, 0.3) ** 2)))
        y, x = window.y0 - area.y0, window.x0 - area.x0
        return values[y : y + window.height, x : x + window.width]

    def words(self) -> str:
        return f"{max(self.amount):g}, {self.size:g} px"
