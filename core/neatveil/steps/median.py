"""The middle of the values around each pixel: takes out specks and keeps edges."""

from __future__ import annotations

from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import Plane
from .base import Family, scaled
from .neighbourhood import NeighbourhoodStep


class MedianStep(NeighbourhoodStep):
    """Take out specks."""

    title: ClassVar[str] = "Median"
    help: ClassVar[str] = "Takes out specks and keeps edges."
    family: ClassVar[Family] = "edges"

    kind: Literal["median"] = "median"
    size: int = Field(
        1, ge=0, le=2, title="size", description="1 looks at 3 x 3 pixels, 2 at 5 x 5.",
        json_schema_extra={"unit": "px", "slider": [0, 2]},
    )  # fmt: skip

    def reach(self, level: int) -> int:
        return min(2, round(scaled(self.size, level)))

    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        reach = self.reach(level)
        wide = (
            plane
            if border == cv2.BORDER_REPLICATE
            else cv2.copyMakeBorder(plane, reach, reach, reach, reach, border)
        )
        done = np.asarray(cv2.medianBlur(np.ascontiguousarray(wide), 2 * reach + 1), np.float32)
        return done if wide is plane else np.ascontiguousarray(done[reach:-reach, reach:-reach])

    def words(self) -> str:
        return f"{2 * self.size + 1} x {2 * self.size + 1}"
