"""Sharpening: what a Gaussian takes away is added ("unsharp masking"). Common practice, no source."""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..numeric.gaussian import gaussian
from ..picture import Plane
from .base import Family, scaled
from .neighbourhood import NeighbourhoodStep


class SharpenStep(NeighbourhoodStep):
    """Make edges steeper."""

    title: ClassVar[str] = "Sharpen"
    help: ClassVar[str] = "Adds back what a blur would take away."
    family: ClassVar[Family] = "edges"

    kind: Literal["sharpen"] = "sharpen"
    channels: str = Field(
        "rgb", pattern="^[rgba]+$", title="channels", json_schema_extra={"unit": "channels"}
    )
    size: float = Field(
        1.0, ge=0, le=200, title="size", description="Standard deviation of the blur.",
        json_schema_extra={"unit": "px", "slider": [0, 10]},
    )  # fmt: skip
    amount: float = Field(0.5, ge=0, le=20, title="amount", json_schema_extra={"slider": [0, 3]})

    def reach(self, level: int) -> int:
        size = scaled(self.size, level)
        return 0 if size < 0.02 or self.amount == 0 else ceil(4 * size)

    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        line = gaussian(scaled(self.size, level))
        soft = cv2.sepFilter2D(plane, -1, line, line, borderType=border)
        return np.asarray(cv2.addWeighted(plane, 1 + self.amount, soft, -self.amount, 0), np.float32)

    def words(self) -> str:
        return f"{self.amount:g} at {self.size:g} px"
