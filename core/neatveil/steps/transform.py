"""Move, scale and turn about an anchor, blurred by its own motion where it is animated.

With a shutter above 0 the picture is the mean of as many moments as asked for, spread evenly over the time in
which the shutter is open, its middle at the frame (common practice, no source).
"""

from __future__ import annotations

from math import cos, radians, sin
from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from ..picture import Box, PremultipliedPicture
from .base import Family, FieldStep, scaled
from .warp import FILTER_LABELS, Filter, Matrix, moved, only_channels


class TransformStep(FieldStep):
    """Move, scale, rotation."""

    title: ClassVar[str] = "Transform"
    help: ClassVar[str] = "Moves, scales and rotates about an anchor; any channel by itself."
    family: ClassVar[Family] = "place"

    kind: Literal["transform"] = "transform"
    x: float = Field(0.0, ge=-1e5, le=1e5, title="x", json_schema_extra={"unit": "px", "slider": [-500, 500]})
    y: float = Field(0.0, ge=-1e5, le=1e5, title="y", json_schema_extra={"unit": "px", "slider": [-500, 500]})
    scale: float = Field(
        1.0, ge=0.001, le=100, title="scale", json_schema_extra={"unit": "x", "slider": [0, 3]}
    )
    stretch: float = Field(
        1.0, ge=0.001, le=100, title="stretch", description="Across only, on top of the scale.",
        json_schema_extra={"unit": "x", "slider": [0, 3]},
    )  # fmt: skip
    rotation: float = Field(
        0.0, ge=-36000, le=36000, title="rotation", description="Clockwise.",
        json_schema_extra={"unit": "deg", "slider": [-180, 180]},
    )  # fmt: skip
    anchor_x: float = Field(
        0.0, ge=-1e5, le=1e5, title="anchor x", description="What stays while it scales and turns.",
        json_schema_extra={"unit": "px", "slider": [-1000, 1000]},
    )  # fmt: skip
    anchor_y: float = Field(
        0.0, ge=-1e5, le=1e5, title="anchor y", json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )
    filter: Filter = Field(
        "cubic", title="filter",
        json_schema_extra={"labels": FILTER_LABELS},
    )  # fmt: skip
    shutter: float = Field(
        0.0, ge=0, le=2, title="shutter", description="Frames for which it is open; 0 is sharp.",
        json_schema_extra={"unit": "fr", "slider": [0, 1]},
    )  # fmt: skip
    samples: int = Field(
        16, ge=2, le=256, title="shutter samples", description="Pictures averaged while the shutter is open."
    )
    path: tuple[tuple[float, float, float, float, float], ...] = Field(
        (), title="path", description="x, y, scale, stretch, turn in an open shutter; made from the keys.",
        json_schema_extra={"unit": "made"},
    )  # fmt: skip

    def at(self, frame: float) -> Self:
        now = super().at(frame)
        if not self.keys or now.shutter == 0:
            return now
        moments = [(i + 0.5) / now.samples - 0.5 for i in range(now.samples)]
        at = [super(TransformStep, self).at(frame + m * now.shutter) for m in moments]
        path = tuple((s.x, s.y, s.scale, s.stretch, s.rotation) for s in at)
        return now.model_copy(update={"path": path if len(set(path)) > 1 else ()})

    def changes_nothing(self, level: int) -> bool:
        rest = (self.x, self.y, self.scale, self.stretch, self.rotation % 360) == (0, 0, 1, 1, 0)
        return rest and not self.path

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        poses = self.path or ((self.x, self.y, self.scale, self.stretch, self.rotation),)
        matrices = [self._matrix(picture.display_window, level, *pose) for pose in poses]
        return only_channels(picture, moved(picture, matrices, self.filter), self.channels)

    def _matrix(
        self, window: Box, level: int, x: float, y: float, scale: float, stretch: float, rotation: float
    ) -> Matrix:
        angle = radians(rotation)
        c, s = cos(angle), sin(angle)
        ax = window.width / 2 + scaled(self.anchor_x, level)
        ay = window.height / 2 + scaled(self.anchor_y, level)
        turned = np.array([[c, -s], [s, c]]) @ np.diag([scale * stretch, scale])
        matrix = np.eye(3)
        matrix[:2, :2] = turned
        matrix[:2, 2] = (ax + scaled(x, level), ay + scaled(y, level)) - turned @ (ax, ay)
        return matrix

    def words(self) -> str:
        parts = []
        if self.x or self.y:
            parts.append(f"{self.x:+g}, {self.y:+g} px")
        if self.scale != 1 or self.stretch != 1:
            parts.append(f"x {self.scale:g}")
        if self.rotation:
            parts.append(f"{self.rotation:g} degrees")
        return ", ".join(parts) or "where it was"
