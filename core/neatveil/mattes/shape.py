"""Ellipses, rectangles and free forms of Bezier curves, each with a soft edge of two widths."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from ..drawn.outline import soft_outline
from ..drawn.shapes import shape_weights
from ..picture import Box, Plane
from .part import Drawn, DrawnPart

_Length = Annotated[float, Field(ge=-1e6, le=1e6)]
#: Numbers of one point: x, y, its handle before it and the one after it, both seen from it.
PER_POINT = 6


class ShapePart(DrawnPart):
    """``points``: six numbers for each point of a free form, pixels from the picture's centre.

    x, y, and the handles before and after it as offsets from it.
    """

    title: ClassVar[str] = "Shape"

    kind: Literal["shape"] = "shape"
    shape: Literal["ellipse", "rectangle", "free"] = Field(
        "ellipse", title="shape",
        json_schema_extra={"labels": {"ellipse": "Ellipse", "rectangle": "Rectangle", "free": "Free form"}},
    )  # fmt: skip
    x: float = Field(
        0.0, ge=-1e5, le=1e5, title="x", json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )
    y: float = Field(
        0.0, ge=-1e5, le=1e5, title="y", json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )
    width: float = Field(
        400.0, ge=0, le=1e5, title="width", json_schema_extra={"unit": "px", "slider": [0, 2000]}
    )
    height: float = Field(
        400.0, ge=0, le=1e5, title="height", json_schema_extra={"unit": "px", "slider": [0, 2000]}
    )
    rotation: float = Field(
        0.0, ge=-36000, le=36000, title="rotation", json_schema_extra={"unit": "deg", "slider": [-180, 180]}
    )
    points: tuple[_Length, ...] = Field((), max_length=PER_POINT * 500, title="points")
    soft_inside: float = Field(
        0.0, ge=0, le=1e5, title="soft inside", description="How far within its outline it fades.",
        json_schema_extra={"unit": "px", "slider": [0, 200]},
    )  # fmt: skip
    soft_outside: float = Field(
        0.0, ge=0, le=1e5, title="soft outside", description="How far beyond its outline it fades.",
        json_schema_extra={"unit": "px", "slider": [0, 200]},
    )  # fmt: skip

    @model_validator(mode="after")
    def _whole_points(self) -> ShapePart:
        if len(self.points) % PER_POINT:
            raise ValueError(f"a free form has {PER_POINT} numbers a point; {len(self.points)} is not that")
        return self

    def drawn(self, height: int, width: int, level: int) -> Drawn:
        plane = (
            self._free(height, width, level) if self.shape == "free" else self._plain(height, width, level)
        )
        return Drawn(np.asarray(np.float32(1) - plane) if self.inverted else plane)

    def _plain(self, height: int, width: int, level: int) -> Plane:
        middle, size = (self.x, self.y), (self.width, self.height)
        soft, outwards = self.soft_inside + self.soft_outside, (self.soft_outside - self.soft_inside) / 2
        box = Box.sized(width, height)
        return shape_weights(
            self.shape, middle, size, self.rotation, soft, box, (width, height), level, outwards
        )

    def _free(self, height: int, width: int, level: int) -> Plane:
        share = 2.0**-level
        points = np.array(self.points).reshape(-1, PER_POINT) * share
        points[:, :2] += (width / 2, height / 2)
        return soft_outline(points, self.soft_inside * share, self.soft_outside * share, height, width)
