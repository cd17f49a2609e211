"""Gain, offset, contrast and saturation, in this order.

``y = (x * gain + offset - pivot) * contrast + pivot``; then the distance from luma times the saturation.
Luma: ITU-R BT.709-6, item 3.2 [BT709], of the values as they stand.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..channels.luma import LUMA_WEIGHTS
from ..numeric.jit import kernel
from .base import Flat, Triple, float32s
from .value import CodedStep


@kernel
def _linear(x, out, factor, add):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = x[i] * factor + add


@kernel
def _saturated(r, g, b, x, out, amount, wr, wg, wb):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        luma = wr * r[i] + wg * g[i] + wb * b[i]
        out[i] = luma + amount * (x[i] - luma)


def _rgb(value: float, title: str, words: str) -> Triple:
    return Field(  # type: ignore[no-any-return]
        (value,) * 3, title=title, description=words,
        json_schema_extra={"unit": "rgb", "slider": [0, 2] if value else [-0.5, 0.5]},
    )  # fmt: skip


class GradeStep(CodedStep):
    """Gain, offset, contrast, saturation."""

    title: ClassVar[str] = "Grade"
    help: ClassVar[str] = "Gain, offset, contrast and saturation."

    kind: Literal["grade"] = "grade"
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

    def numbers(self, i: int) -> tuple[np.float32, ...]:
        """Factor and sum of channel ``i``; alpha has contrast only."""
        gain, offset = (1.0, 0.0) if i == 3 else (self.gain[i], self.offset[i])
        return float32s(gain * self.contrast, (offset - self.pivot) * self.contrast + self.pivot)

    def coded(self, given: Flat, scratch: Flat) -> Flat:
        done = list(given)
        for i, letter in enumerate("rgba"):
            if letter in self.channels:
                _linear(given[i], scratch[i], *self.numbers(i))
                done[i] = scratch[i]
        if self.saturation == 1:
            return done
        rgb = [done[i].copy() if done[i] is scratch[i] else done[i] for i in range(3)]
        weights = float32s(self.saturation, *LUMA_WEIGHTS["bt709"])
        for i, letter in enumerate("rgb"):
            if letter in self.channels:
                _saturated(*rgb, rgb[i], scratch[i], *weights)
        return done

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
