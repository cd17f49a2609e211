"""The frame filled with smaller copies of the picture, side by side."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..picture import RGBA, PremultipliedPicture, whole_frame
from .base import Family, FieldStep
from .warp import moved, only_channels


class TileStep(FieldStep):
    """Repeat the picture."""

    title: ClassVar[str] = "Tile"
    help: ClassVar[str] = "Fills the frame with smaller copies of the picture."
    family: ClassVar[Family] = "place"

    kind: Literal["tile"] = "tile"
    columns: int = Field(2, ge=1, le=64, title="across", json_schema_extra={"slider": [1, 8]})
    rows: int = Field(2, ge=1, le=64, title="down", json_schema_extra={"slider": [1, 8]})
    mirrored: bool = Field(False, title="mirrored", description="Every second copy, so that edges meet.")

    def changes_nothing(self, level: int) -> bool:
        return self.columns == 1 and self.rows == 1

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        full = whole_frame(picture)
        f = full.display_window
        one = whole_frame(moved(full, [np.diag([1 / self.columns, 1 / self.rows, 1.0])], "linear"))
        width, height = -(-f.width // self.columns), -(-f.height // self.rows)
        planes = {}
        for n in RGBA:
            cell = one[n][:height, :width]
            row = np.concatenate([self._turned(cell, i, 1) for i in range(self.columns)], axis=1)
            whole = np.concatenate([self._turned(row, i, 0) for i in range(self.rows)], axis=0)
            planes[n] = np.ascontiguousarray(whole[: f.height, : f.width])
        done = PremultipliedPicture(planes, f, f, data_planes=picture.data_planes)
        return only_channels(full, done, self.channels)

    def _turned(self, cell: np.ndarray, number: int, axis: int) -> np.ndarray:
        return np.flip(cell, axis) if self.mirrored and number % 2 else cell

    def words(self) -> str:
        return f"{self.columns} x {self.rows}{', mirrored' if self.mirrored else ''}"
