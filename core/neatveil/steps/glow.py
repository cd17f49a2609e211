"""Light around what is bright: blurred and added to the colour alone: light where alpha is 0.

``C + gain * tint * blur(max(C - threshold * a, 0))``: what is above the threshold in straight colour spreads.
"""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..numeric.jit import kernel
from ..numeric.pool import for_each, for_strips
from ..picture import RGB, Plane, PremultipliedPicture, cut, new_planes, trimmed
from .base import Family, FieldStep, LightTriple, scaled
from .blur import softened
from .neighbourhood import with_margin


@kernel
def _above(c, a, out, least):  # type: ignore[no-untyped-def]
    """What of a premultiplied channel lies above a value of its surface."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(out.size):
        out[i] = max(c[i] - least * min(max(a[i], zero), one), zero)


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
    tint: LightTriple = Field(
        (1.0, 1.0, 1.0), title="tint",
        json_schema_extra={"unit": "rgb", "slider": [0, 2]},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.gain == 0

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        sigma = max(scaled(self.size, level), 0.02)
        chosen = [n for n in RGB if n.lower() in self.channels]
        bright = self._bright(picture, chosen)
        given, area, inner = with_margin(bright, ceil(4 * sigma), repeat=True, names=chosen)
        light: dict[str, Plane] = {}
        for_each(chosen, lambda n: light.update({n: softened(given[n], sigma)}))
        whole = cut(picture, picture.data_window.around(area))
        planes = {**whole.planes, **new_planes(chosen, whole.data_window.height, whole.data_window.width)}
        lit = area.shift(-whole.data_window.x0, -whole.data_window.y0)
        gains = {n: self.gain * tint for n, tint in zip(RGB, self.tint, strict=True)}

        def strip(y0: int, y1: int) -> None:
            first, end = max(y0, lit.y0), min(y1, lit.y1)
            for n in chosen:
                out = planes[n]
                out[y0:y1] = whole[n][y0:y1]
                if first < end:
                    more = light[n][inner][first - lit.y0 : end - lit.y0]
                    part = out[first:end, lit.x0 : lit.x1]
                    cv2.scaleAdd(more, gains[n], part, part)

        for_strips(whole.data_window.height, whole.data_window.width, strip)
        return whole.with_planes(planes)

    def _bright(self, picture: PremultipliedPicture, chosen: list[str]) -> PremultipliedPicture:
        """What shines, and no more of the picture than where something does."""
        height, width = picture["A"].shape
        bright = new_planes(chosen, height, width)
        least = np.float32(self.threshold)

        def strip(y0: int, y1: int) -> None:
            alpha = picture["A"][y0:y1].reshape(-1)
            for n in chosen:
                _above(picture[n][y0:y1].reshape(-1), alpha, bright[n][y0:y1].reshape(-1), least)

        for_strips(height, width, strip)
        return trimmed(picture.with_planes({**picture.planes, **bright}), chosen)

    def words(self) -> str:
        return f"{self.size:g} px from {self.threshold:g}"
