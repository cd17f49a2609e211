"""Ellipses, rectangles and free forms of Bezier curves, each with a soft edge of two widths."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np

from ..drawn.form import Form
from ..drawn.outline import soft_outline
from ..drawn.shapes import shape_weights
from ..picture import Box, Plane
from .part import Drawn, DrawnPart


class ShapePart(Form, DrawnPart):
    """A form that is kept."""

    title: ClassVar[str] = "Shape"

    kind: Literal["shape"] = "shape"

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
        points = self.free_points(share, (width / 2, height / 2))
        return soft_outline(points, self.soft_inside * share, self.soft_outside * share, height, width)
