"""Light around what is bright: blurred and added to the colour alone: light where alpha is 0.

``C + gain * tint * blur(max(C - threshold * a, 0))``: what is above the threshold in straight colour spreads.
"""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import RGB, PremultipliedPicture
from .base import Family, FieldStep, Triple, scaled
from .blur import gaussian
from .near import with_margin


class GlowStep(FieldStep):
    """Let bright parts shine."""

    title: ClassVar[str] = "Glow"
    help: ClassVar[str] = "Lets bright parts shine past their edge; alpha stays."
    family: ClassVar[Family] = "light"

    kind: Literal["glow"] = "glow"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    size: float = Field(
        20.0, ge=0, le=1000, title="size", description="Standard deviation.",
        json_schema_extra={"unit": "px", "slider": [0, 100]},
    )  # fmt: skip
    threshold: float = Field(
        0.5, ge=0, le=100, title="from", description="Light above this shines.",
        json_schema_extra={"unit": "code", "slider": [0, 2]},
    )  # fmt: skip
    gain: float = Field(1.0, ge=0, le=100, title="strength", json_schema_extra={"slider": [0, 4]})
    tint: Triple = Field(
        (1.0, 1.0, 1.0), title="tint",
        json_schema_extra={"unit": "rgb", "slider": [0, 2]},
    )  # fmt: skip

    def nothing(self, level: int) -> bool:
        return self.gain == 0

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        sigma = max(scaled(self.size, level), 0.02)
        given, area, inner = with_margin(picture, ceil(4 * sigma), repeat=True)
        line = gaussian(sigma)
        planes = {"A": np.ascontiguousarray(given["A"][inner])}
        floor = np.float32(self.threshold) * np.clip(given["A"], 0, 1)
        for n, tint in zip(RGB, self.tint, strict=True):
            planes[n] = np.ascontiguousarray(given[n][inner])
            if n.lower() in self.channels:
                bright = np.maximum(given[n] - floor, 0)
                light = cv2.sepFilter2D(bright, -1, line, line, borderType=cv2.BORDER_REPLICATE)
                planes[n] += np.float32(self.gain * tint) * np.asarray(light)[inner]
        return PremultipliedPicture(planes, area, picture.display_window, data_planes=picture.data_planes)

    def words(self) -> str:
        return f"{self.size:g} px from {self.threshold:g}"
