"""A part of the picture kept, the rest cleared; edges between pixels keep their share."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..picture import RGBA, PremultipliedPicture
from .base import Family, FieldStep, scaled


def _side(title: str) -> float:
    return Field(0.0, ge=0, le=1e5, title=title, json_schema_extra={"unit": "px", "slider": [0, 1000]})


class CropStep(FieldStep):
    """Cut the sides off."""

    title: ClassVar[str] = "Crop"
    help: ClassVar[str] = "Clears the sides; what is left stays where it is."
    family: ClassVar[Family] = "place"

    kind: Literal["crop"] = "crop"
    left: float = _side("left")
    top: float = _side("top")
    right: float = _side("right")
    bottom: float = _side("bottom")

    def changes_nothing(self, level: int) -> bool:
        return not (self.left or self.top or self.right or self.bottom)

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        f, d = picture.display_window, picture.data_window
        x0, x1 = f.x0 + scaled(self.left, level), f.x1 - scaled(self.right, level)
        y0, y1 = f.y0 + scaled(self.top, level), f.y1 - scaled(self.bottom, level)
        across = _share(np.arange(d.x0, d.x1), x0, x1)
        down = _share(np.arange(d.y0, d.y1), y0, y1)
        weights = down[:, None] * across[None, :]
        changed = {n: picture[n] * weights for n in RGBA if n.lower() in self.channels}
        return picture.with_planes({**picture.planes, **changed})

    def words(self) -> str:
        sides = {"left": self.left, "top": self.top, "right": self.right, "bottom": self.bottom}
        return ", ".join(f"{n} {v:g}" for n, v in sides.items() if v) or "whole"


def _share(first: np.ndarray, low: float, high: float) -> np.ndarray:
    """How much of each pixel lies between two places."""
    return np.asarray(np.clip(np.minimum(first + 1, high) - np.maximum(first, low), 0, 1), np.float32)
