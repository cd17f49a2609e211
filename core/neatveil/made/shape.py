"""An ellipse, a rectangle or a free form with a fill and an outline."""

from __future__ import annotations

from math import cos, pi, radians, sin
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..drawn.form import PER_POINT, Form
from ..drawn.outline import Points, flattened, soft_polygon, squared_distances
from ..drawn.shapes import corners_of
from ..picture import Box, Plane, PremultipliedPicture
from .base import EDGE, NOTHING, Canvas, Colour, Laid, Made, bounds_of, colour_field, painted, share_field


class ShapeMade(Form, Made):
    """A form, filled and outlined. Its outline lies half within its edge and half beyond."""

    title: ClassVar[str] = "Shape"
    help: ClassVar[str] = "An ellipse, a rectangle or a free form, filled, outlined, with a soft edge."
    rank: ClassVar[int] = 20

    kind: Literal["shape"] = "shape"
    corner: float = Field(
        0.0, ge=0, le=1e5, title="corner radius", description="Of a rectangle.",
        json_schema_extra={"unit": "px", "slider": [0, 200]},
    )  # fmt: skip
    colour: Colour = colour_field("fill")
    alpha: float = share_field("fill alpha")
    outline: float = Field(
        0.0, ge=0, le=10000, title="outline", description="Its width.",
        json_schema_extra={"unit": "px", "slider": [0, 50]},
    )  # fmt: skip
    outline_colour: Colour = colour_field("outline colour", default=(0.0, 0.0, 0.0))
    outline_alpha: float = share_field("outline alpha")

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        corners = self._corners(canvas)
        share = canvas.share
        inside, outside = self.soft_inside * share, self.soft_outside * share
        wide = self.outline * share
        box = canvas.box_around([corners] if len(corners) else [], max(outside, wide / 2) + EDGE)
        if not len(corners):
            return painted(canvas, box, [])
        moved = corners - (box.x0, box.y0)
        fill = soft_polygon(moved, inside, outside, box.height, box.width)
        layers = [Laid(self.colour, self.alpha, fill)]
        if wide > 0:
            band = _band(moved, wide, box)
            layers.append(Laid(self.outline_colour, self.outline_alpha, band))
        return painted(canvas, box, layers)

    def reach(self, canvas: Canvas) -> Box:
        corners = self._corners(canvas)
        beside = max(self.soft_outside, self.outline / 2) * canvas.share
        return bounds_of([corners], beside) if len(corners) else NOTHING

    def _corners(self, canvas: Canvas) -> Points:
        """``(N, 2)`` in pixels of the level."""
        share, (mx, my) = canvas.share, canvas.middle
        if self.shape == "free":
            points = self.free_points(share, canvas.middle)
            return flattened(points) if len(points) > 2 else np.empty((0, 2))
        half = self.width * share / 2, self.height * share / 2
        if min(half) <= 0:
            return np.empty((0, 2))
        centre = self.x * share + mx, self.y * share + my
        angle = radians(self.rotation)
        round_ = min(self.corner * share, *half)
        if self.shape == "rectangle" and round_ > 0:
            return _rounded(half, round_, angle) + centre
        return corners_of(self.shape, half, angle) + centre

    def words(self) -> str:
        name = {"ellipse": "ellipse", "rectangle": "rectangle", "free": "free form"}[self.shape]
        if self.shape == "free":
            return f"{name}, {len(self.points) // PER_POINT} points"
        return f"{name}, {self.width:g} x {self.height:g} px"


def _rounded(half: tuple[float, float], radius: float, angle: float) -> Points:
    turns = np.linspace(0, pi / 2, 33)
    arcs = []
    for k, (sx, sy) in enumerate(((1, 1), (-1, 1), (-1, -1), (1, -1))):
        middle = np.array([sx * (half[0] - radius), sy * (half[1] - radius)])
        t = turns + k * pi / 2
        arcs.append(middle + radius * np.stack([np.cos(t), np.sin(t)], 1))
    c, s = cos(angle), sin(angle)
    return np.asarray(np.concatenate(arcs) @ np.array([[c, s], [-s, c]]))


def _band(corners: Points, width: float, box: Box) -> Plane:
    """``(H, W)`` of a line of a width along a polygon, its corners round."""
    reach = width / 2 + 0.5
    squared = squared_distances([corners], reach, (0, 0, box.width, box.height), closed=True)
    # a line thinner than a pixel covers its share of one
    most = np.float32(min(width, 1.0))
    return np.asarray(np.clip(np.float32(reach) - np.sqrt(squared), 0, most), np.float32)
