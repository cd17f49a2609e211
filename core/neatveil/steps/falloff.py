"""A soft ellipse or rectangle that fades a layer out: colour, light and alpha alike."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..drawn.shapes import shape_weights
from ..numeric.pool import for_strips
from ..picture import RGBA, Box, PremultipliedPicture
from .base import Family, FieldStep


class FalloffStep(FieldStep):
    """Fade out by a shape."""

    title: ClassVar[str] = "Falloff"
    help: ClassVar[str] = "Fades the layer out beyond a soft ellipse or rectangle."
    family: ClassVar[Family] = "place"

    kind: Literal["falloff"] = "falloff"
    shape: Literal["ellipse", "rectangle"] = Field(
        "ellipse",
        title="shape",
        json_schema_extra={"labels": {"ellipse": "Ellipse", "rectangle": "Rectangle"}},
    )
    x: float = Field(
        0.0, ge=-1e5, le=1e5, title="x", json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )
    y: float = Field(
        0.0, ge=-1e5, le=1e5, title="y", json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )
    width: float = Field(
        1000.0, ge=0, le=1e5, title="width", json_schema_extra={"unit": "px", "slider": [0, 3000]}
    )
    height: float = Field(
        600.0, ge=0, le=1e5, title="height", json_schema_extra={"unit": "px", "slider": [0, 3000]}
    )
    rotation: float = Field(
        0.0, ge=-36000, le=36000, title="rotation", json_schema_extra={"unit": "deg", "slider": [-180, 180]}
    )
    soft: float = Field(
        200.0, ge=0, le=1e5, title="soft", description="Width of its edge, half of it on either side.",
        json_schema_extra={"unit": "px", "slider": [0, 1000]},
    )  # fmt: skip
    inverted: bool = Field(False, title="inverted", description="Fades out within the shape.")

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        display, window = picture.display_window, picture.data_window
        changed = {n: np.empty_like(picture[n]) for n in RGBA if n.lower() in self.channels}

        def strip(y0: int, y1: int) -> None:
            rows = Box(window.x0, window.y0 + y0, window.x1, window.y0 + y1)
            weights = shape_weights(
                self.shape, (self.x, self.y), (self.width, self.height), self.rotation, self.soft,
                rows.shift(-display.x0, -display.y0), (display.width, display.height), level,
            )  # fmt: skip
            if self.inverted:
                weights = np.float32(1) - weights
            for n, out in changed.items():
                np.multiply(picture[n][y0:y1], weights, out=out[y0:y1])

        for_strips(window.height, window.width, strip)
        return picture.with_planes({**picture.planes, **changed})

    def words(self) -> str:
        return f"{self.shape} {self.width:g} x {self.height:g} px"
