"""Paint over a matte: strokes of white, black or grey, each on its frames."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..drawn.strokes import Stroke, painted
from .part import Drawn, DrawnPart


class PaintPart(DrawnPart):
    """Lies over the parts before it: it has no way of its own to come in."""

    title: ClassVar[str] = "Paint"

    kind: Literal["paint"] = "paint"
    strokes: tuple[Stroke, ...] = Field((), max_length=10000, title="strokes")

    def at(self, frame: float) -> PaintPart:
        now = super().at(frame)
        seen = tuple(s for s in now.strokes if s.shows(frame))
        return now if len(seen) == len(now.strokes) else now.model_copy(update={"strokes": seen})

    def drawn(self, height: int, width: int, level: int) -> Drawn:
        grey, cover = painted(self.strokes, height, width, level)
        return Drawn(np.asarray(cover - grey) if self.inverted else grey, cover)
