"""Gain, offset, contrast and saturation, in this order.

``y = (x * gain + offset - pivot) * contrast + pivot``; then the distance from luma times the saturation.
Luma: ITU-R BT.709-6, item 3.2 [BT709], of the values as they stand.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..channels.luma import LUMA_WEIGHTS
from .base import Triple
from .linear import Linear
from .value import LinearStep


def _rgb(value: float, title: str, words: str) -> Triple:
    return Field(
        (value,) * 3, title=title, description=words,
        json_schema_extra={"unit": "rgb", "slider": [0, 2] if value else [-0.5, 0.5]},
    )  # fmt: skip


class ToneStep(LinearStep):
    """Gain, offset, contrast, saturation."""

    title: ClassVar[str] = "Tone"
    help: ClassVar[str] = "Gain, offset, contrast and saturation."

    kind: Literal["tone"] = "tone"
    gain: Triple = _rgb(1.0, "gain", "Each channel times this.")
    offset: Triple = _rgb(0.0, "offset", "Added to each channel.")
    contrast: float = Field(
        1.0, ge=0, le=10, title="contrast", description="Distance from the pivot times this.",
        json_schema_extra={"slider": [0, 2]},
    )  # fmt: skip
    pivot: float = Field(
        0.18, ge=-4, le=16, title="pivot", description="What contrast leaves as it is.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip
    saturation: float = Field(
        1.0, ge=-4, le=10, title="saturation", description="0 is grey.", json_schema_extra={"slider": [0, 2]}
    )

    def linear(self) -> Linear:
        """Alpha has contrast only."""
        gain, offset = np.array([*self.gain, 1.0]), np.array([*self.offset, 0.0])
        add = (offset - self.pivot) * self.contrast + self.pivot
        graded = Linear.each(self.channels, gain * self.contrast, add)
        luma = np.tile(LUMA_WEIGHTS["bt709"], (3, 1))
        return graded.then(Linear.colour(self.channels, luma + self.saturation * (np.eye(3) - luma)))

    def words(self) -> str:
        parts = []
        if self.gain != (1, 1, 1):
            parts.append("gain " + " ".join(f"{v:.2f}" for v in self.gain))
        if self.offset != (0, 0, 0):
            parts.append("offset " + " ".join(f"{v:.2f}" for v in self.offset))
        if self.contrast != 1:
            parts.append(f"contrast {self.contrast:.2f}")
        if self.saturation != 1:
            parts.append(f"saturation {self.saturation:.2f}")
        return ", ".join(parts) or "as it was"
