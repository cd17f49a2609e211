"""Where a drawn form lies: an ellipse, a rectangle or a free form of Bezier curves, with a soft edge."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, model_validator

from ..animation import Animated
from .outline import Points

_Length = Annotated[float, Field(ge=-1e6, le=1e6)]
#: Numbers of one point: x, y, its handle before it and the one after it, both seen from it.
PER_POINT = 6


def place_field(title: str, *, default: float = 0.0) -> Any:
    """One number of a place, in pixels from the picture's centre."""
    return Field(
        default, ge=-1e5, le=1e5, title=title, json_schema_extra={"unit": "px", "slider": [-1000, 1000]}
    )


class Form(Animated):
    """``points``: six numbers for each point of a free form, pixels from the picture's centre.

    x, y, and the handles before and after it as offsets from it.
    """

    shape: Literal["ellipse", "rectangle", "free"] = Field(
        "ellipse", title="shape",
        json_schema_extra={"labels": {"ellipse": "Ellipse", "rectangle": "Rectangle", "free": "Free form"}},
    )  # fmt: skip
    x: float = place_field("x")
    y: float = place_field("y")
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
    def _whole_points(self) -> Form:
        if len(self.points) % PER_POINT:
            raise ValueError(f"a free form has {PER_POINT} numbers a point; {len(self.points)} is not that")
        return self

    def free_points(self, share: float, middle: tuple[float, float]) -> Points:
        """``(N, 6)`` of the free form in pixels ``share`` times as small, its centre at ``middle``."""
        points = np.array(self.points).reshape(-1, PER_POINT) * share
        points[:, :2] += middle
        return points
