"""The picture mirrored within its frame; no pixel is resampled."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..picture import RGBA, Box, PremultipliedPicture
from .base import Family, FieldStep
from .warp import only_channels


class FlipStep(FieldStep):
    """Mirror."""

    title: ClassVar[str] = "Flip"
    help: ClassVar[str] = "Mirrors the picture left to right, top to bottom, or both."
    family: ClassVar[Family] = "place"

    kind: Literal["flip"] = "flip"
    across: bool = Field(True, title="left to right")
    down: bool = Field(False, title="top to bottom")

    def changes_nothing(self, level: int) -> bool:
        return not (self.across or self.down)

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        f, d = picture.display_window, picture.data_window
        x0, x1 = (f.x0 + f.x1 - d.x1, f.x0 + f.x1 - d.x0) if self.across else (d.x0, d.x1)
        y0, y1 = (f.y0 + f.y1 - d.y1, f.y0 + f.y1 - d.y0) if self.down else (d.y0, d.y1)
        way = (slice(None, None, -1 if self.down else 1), slice(None, None, -1 if self.across else 1))
        planes = {n: np.ascontiguousarray(picture[n][way]) for n in RGBA}
        done = PremultipliedPicture(planes, Box(x0, y0, x1, y1), f, data_planes=picture.data_planes)
        return only_channels(picture, done, self.channels)

    def words(self) -> str:
        ways = [w for w, on in (("left to right", self.across), ("top to bottom", self.down)) if on]
        return ", ".join(ways) or "as it was"
