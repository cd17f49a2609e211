"""Where a step acts: everywhere, in a shape with a soft edge, through a channel of its own, or a matte."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import Field

from ..animation import Animated
from ..channels.luma import LUMA_WEIGHTS
from ..drawn.shapes import shape_weights
from ..mattes import Matte
from ..picture import Box, Plane, plane_over


class Through(Animated):
    """Weights 0..1 of every pixel. Places are pixels of the layer's picture, measured from its centre."""

    by: Literal["everywhere", "ellipse", "rectangle", "channel", "matte"] = Field("everywhere", title="acts")
    x: float = Field(0.0, ge=-1e5, le=1e5, title="x", json_schema_extra={"unit": "px"})
    y: float = Field(0.0, ge=-1e5, le=1e5, title="y", json_schema_extra={"unit": "px"})
    width: float = Field(800.0, ge=0, le=1e5, title="width", json_schema_extra={"unit": "px"})
    height: float = Field(600.0, ge=0, le=1e5, title="height", json_schema_extra={"unit": "px"})
    rotation: float = Field(0.0, ge=-36000, le=36000, title="rotation", json_schema_extra={"unit": "deg"})
    soft: float = Field(
        100.0, ge=0, le=1e5, title="soft", description="Width of its edge, half of it on either side.",
        json_schema_extra={"unit": "px"},
    )  # fmt: skip
    channel: Literal["alpha", "luma", "red", "green", "blue"] = Field("alpha", title="channel")
    matte: Matte = Field(default_factory=lambda: Matte(), title="matte")
    inverted: bool = Field(False, title="inverted", description="Acts where it else would not.")

    def at(self, frame: float) -> Through:
        now, matte = super().at(frame), self.matte.at(frame)
        return now if matte is self.matte else now.model_copy(update={"matte": matte})

    def weights(
        self, given: Sequence[Plane], box: Box, frame: tuple[int, int], level: int, matte: Plane | None = None
    ) -> Plane | None:
        """Flat weights of the pixels of ``box``; None where all are 1.

        ``given``: their premultiplied R, G, B, A. ``frame``: width and height of the display window at this
        level, from whose corner the box is measured. ``matte``: the whole frame's, where it acts through one.
        """
        if self.by == "everywhere":
            return None  # what was inverted before stays so for when a shape or matte is chosen again
        if self.by == "matte":
            if matte is None:  # nothing to look it up with, or it removes nothing
                return np.zeros(given[0].size, np.float32) if self.inverted else None
            found = plane_over(matte, Box.sized(*frame), box).reshape(-1)
        elif self.by == "channel":
            found = _channel(given, self.channel)
        else:
            found = shape_weights(
                self.by,
                (self.x, self.y),
                (self.width, self.height),
                self.rotation,
                self.soft,
                box,
                frame,
                level,
            ).reshape(-1)
        return np.asarray(np.float32(1) - found) if self.inverted else found


def _channel(given: Sequence[Plane], name: str) -> Plane:
    """Clipped to 0..1: a weight above 1 would go past the step's own result."""
    if name == "luma":
        wr, wg, wb = (np.float32(w) for w in LUMA_WEIGHTS["bt709"])
        values = wr * given[0] + wg * given[1] + wb * given[2]
    else:
        values = given[("red", "green", "blue", "alpha").index(name)]
    return np.asarray(np.clip(np.nan_to_num(values), 0, 1), np.float32)
