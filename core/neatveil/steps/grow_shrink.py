"""Alpha grown or shrunk by a number of pixels that need not be whole: see `mattes/morphology.py`."""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

from pydantic import Field

from ..mattes.morphology import grown
from ..picture import Plane
from .base import Family, scaled
from .neighbourhood import NeighbourhoodStep


class GrowShrinkStep(NeighbourhoodStep):
    """Move an edge out or in."""

    title: ClassVar[str] = "Grow or shrink"
    help: ClassVar[str] = "Moves the alpha's edge out or in, by fractions of a pixel."
    family: ClassVar[Family] = "edges"

    kind: Literal["grow_shrink"] = "grow_shrink"
    channels: str = Field(
        "a", pattern="^[rgba]+$", title="channels", json_schema_extra={"unit": "channels"},
        description="Letters of the channels it changes. Alpha alone takes the colour past the edge first.",
    )  # fmt: skip
    size: float = Field(
        1.0, ge=-200, le=200, title="size", description="Above 0 grows, below 0 shrinks.",
        json_schema_extra={"unit": "px", "slider": [-10, 10]},
    )  # fmt: skip

    def reach(self, level: int) -> int:
        return ceil(abs(scaled(self.size, level)))

    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        return grown(plane, scaled(self.size, level), border)

    def words(self) -> str:
        return f"{'grown' if self.size > 0 else 'shrunk'} by {abs(self.size):g} px"
