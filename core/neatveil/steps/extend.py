"""The colour of the solid inside taken out over the edge: the repair for an edge of a wrong colour.

See `neatveil.alpha.extend`. Alpha and light stay as they are.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..alpha.extend import extended_colour
from ..picture import RGB, PremultipliedPicture
from .base import Family, FieldStep


class ExtendStep(FieldStep):
    """Take the inside's colour over the edge."""

    title: ClassVar[str] = "Extend edge colour"
    help: ClassVar[str] = "Gives the edge the colour of the solid inside."
    family: ClassVar[Family] = "edges"

    kind: Literal["extend"] = "extend"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    inside: float = Field(
        0.95, ge=0, le=0.9999, title="inside from", description="Alpha from which colour is trusted.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        alpha = picture["A"]
        window, frame_box = picture.data_window, picture.display_window
        corner = window.x0 - frame_box.x0, window.y0 - frame_box.y0
        colour = extended_colour(picture.planes, self.inside, corner)
        edge = (alpha > 0) & (alpha <= np.float32(self.inside))
        changed = {
            n: np.where(edge, colour[n] * alpha, picture[n]) for n in RGB if n.lower() in self.channels
        }
        return picture.with_planes({**picture.planes, **changed})

    def words(self) -> str:
        return f"from alpha {self.inside:g} outwards"
