"""Grey morphology by a disc: alpha grown or shrunk by a number of pixels that need not be whole.

A radius between two whole ones is their mean, weighted. The disc of radius r holds the pixels whose centres
are at most r away.
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, floor
from typing import ClassVar, Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from ..picture import Plane
from .base import Family, scaled
from .near import NearStep


class GrowShrinkStep(NearStep):
    """Move an edge out or in."""

    title: ClassVar[str] = "Grow or shrink"
    help: ClassVar[str] = "Moves the alpha's edge out or in, by fractions of a pixel."
    family: ClassVar[Family] = "edges"

    kind: Literal["grow_shrink"] = "grow_shrink"
    channels: str = Field(
        "a", pattern="^[rgba]+$", title="channels", json_schema_extra={"unit": "channels"},
        description="Letters of the channels it changes. Alpha alone takes the colour past the edge first.",
    )  # fmt: skip
    size: float = Field(
        1.0, ge=-200, le=200, title="size", description="Above 0 grows, below 0 shrinks.",
        json_schema_extra={"unit": "px", "slider": [-10, 10]},
    )  # fmt: skip

    def reach(self, level: int) -> int:
        return ceil(abs(scaled(self.size, level)))

    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        return grown(plane, scaled(self.size, level), border)

    def words(self) -> str:
        return f"{'grown' if self.size > 0 else 'shrunk'} by {abs(self.size):g} px"


def grown(plane: Plane, radius: float, border: int = cv2.BORDER_REPLICATE) -> Plane:
    """``(H, W)`` grown by a disc, or shrunk where the radius is below 0; a new plane."""
    work = cv2.dilate if radius > 0 else cv2.erode
    size = abs(radius)
    low, high = floor(size), ceil(size)
    small = plane if low == 0 else work(plane, footprint(low), borderType=border, borderValue=0)
    if low == high:
        return plane.copy() if low == 0 else np.asarray(small, np.float32)
    large = work(plane, footprint(high), borderType=border, borderValue=0)
    return np.asarray(cv2.addWeighted(small, 1 - (size - low), large, size - low, 0), np.float32)


@lru_cache(maxsize=64)
def footprint(radius: int) -> NDArray[np.uint8]:
    y, x = np.mgrid[-radius : radius + 1, -radius : radius + 1]
    return np.asarray(x * x + y * y <= radius * radius, np.uint8)
