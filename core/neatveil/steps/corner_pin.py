"""The picture's four corners put to four places, as seen in perspective.

Source: Heckbert 1989, section 2.2.3, the projective mapping of a square to a quadrilateral [Heckbert1989].
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import PremultipliedPicture
from .base import Family, FieldStep, scaled
from .warp import FILTER_LABELS, Filter, moved, only_channels

Coordinate = Annotated[float, Field(ge=-1e5, le=1e5)]
Point = tuple[Coordinate, Coordinate]


def _corner(title: str) -> Point:
    return Field(
        (0.0, 0.0), title=title, description="How far this corner is moved, right and down.",
        json_schema_extra={"unit": "point", "slider": [-500, 500]},
    )  # fmt: skip


class CornerPinStep(FieldStep):
    """Put the corners in place."""

    title: ClassVar[str] = "Corner pin"
    help: ClassVar[str] = "Puts the picture's four corners where they belong."
    family: ClassVar[Family] = "place"

    kind: Literal["corner_pin"] = "corner_pin"
    top_left: Point = _corner("top left")
    top_right: Point = _corner("top right")
    bottom_right: Point = _corner("bottom right")
    bottom_left: Point = _corner("bottom left")
    filter: Filter = Field(
        "cubic", title="filter",
        json_schema_extra={"labels": FILTER_LABELS},
    )  # fmt: skip

    @property
    def corners(self) -> tuple[Point, Point, Point, Point]:
        return self.top_left, self.top_right, self.bottom_right, self.bottom_left

    def changes_nothing(self, level: int) -> bool:
        return not any(v for p in self.corners for v in p)

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        w, h = picture.display_window.width, picture.display_window.height
        rest = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32)
        to = rest + np.array([[scaled(v, level) for v in p] for p in self.corners], np.float32)
        if not _convex(to):
            return picture  # folded over itself it has no picture
        matrix = np.asarray(cv2.getPerspectiveTransform(rest, to), float)
        return only_channels(picture, moved(picture, [matrix], self.filter), self.channels)

    def words(self) -> str:
        return f"{sum(any(p) for p in self.corners)} corners moved"


def _convex(points: np.ndarray) -> bool:
    edges = np.roll(points, -1, 0) - points
    after = np.roll(edges, -1, 0)
    turn = edges[:, 0] * after[:, 1] - edges[:, 1] * after[:, 0]
    return bool((turn > 1e-6).all())
