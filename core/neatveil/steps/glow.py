"""Light around what is bright: blurred and added to the colour alone: light where alpha is 0.

``C + gain * tint * blur(max(C - threshold * a, 0))``: what is above the threshold in straight colour spreads.
"""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.pool import for_each
from ..picture import RGB, Plane, PremultipliedPicture, cut, trimmed
from .base import Family, FieldStep, Triple, scaled
from .blur import softened
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
        chosen = [n for n in RGB if n.lower() in self.channels]
        given, area, inner = with_margin(self._bright(picture, chosen), ceil(4 * sigma), repeat=True)
        light: dict[str, Plane] = {}
        for_each(chosen, lambda n: light.update({n: softened(given[n], sigma)}))
        whole = cut(picture, picture.data_window.around(area))
        planes = dict(whole.planes)
        x0, y0 = area.x0 - whole.data_window.x0, area.y0 - whole.data_window.y0
        for n, tint in zip(RGB, self.tint, strict=True):
            if n in light:
                planes[n] = whole[n].copy()
                lit = planes[n][y0 : y0 + area.height, x0 : x0 + area.width]
                lit += np.float32(self.gain * tint) * light[n][inner]
        return whole.with_planes(planes)

    def _bright(self, picture: PremultipliedPicture, chosen: list[str]) -> PremultipliedPicture:
        """What shines, and no more of the picture than where something does."""
        floor = np.float32(self.threshold) * np.clip(picture["A"], 0, 1)
        bright = {n: np.maximum(picture[n] - floor, 0) for n in chosen}
        return trimmed(picture.with_planes({**picture.planes, **bright}), chosen)

    def words(self) -> str:
        return f"{self.size:g} px from {self.threshold:g}"
