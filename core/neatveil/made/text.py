"""Text: shaped by HarfBuzz, drawn from its outlines, so that it is sharp at every size."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..drawn.fonts import FONTS, LABELS, NAME_PATTERN
from ..drawn.form import place_field
from ..drawn.outline import Points, coverage, squared_distances
from ..drawn.text import Setting, text_outlines
from ..picture import Box, Plane, PremultipliedPicture
from .base import EDGE, NOTHING, Canvas, Colour, Laid, Made, bounds_of, colour_field, painted, share_field


class TextMade(Made):
    """Text about a point: ``x``, ``y`` from the canvas's centre."""

    title: ClassVar[str] = "Text"
    help: ClassVar[str] = "A caption, a title, a card."
    rank: ClassVar[int] = 10
    fresh: ClassVar[dict[str, object]] = {"text": "Text"}

    kind: Literal["text"] = "text"
    text: str = Field("", max_length=20000, title="text", json_schema_extra={"unit": "text"})
    font: str = Field(
        "sans", pattern=NAME_PATTERN, title="font",
        json_schema_extra={"unit": "font", "options": [*FONTS], "labels": {**LABELS}},
    )  # fmt: skip
    size: float = Field(
        100.0, gt=0, le=10000, title="size", json_schema_extra={"unit": "px", "slider": [8, 400]}
    )
    weight: float = Field(
        400.0, ge=200, le=900, title="weight",
        description="400 is regular, 700 bold. Of a font file it counts where that has weights.",
        json_schema_extra={"slider": [200, 900]},
    )  # fmt: skip
    tracking: float = Field(
        0.0, ge=-1000, le=10000, title="tracking",
        description="Between letters, in thousandths of the size.", json_schema_extra={"slider": [-100, 500]},
    )  # fmt: skip
    leading: float = Field(
        1.2, ge=0, le=100, title="leading", description="From line to line, as a share of the size.",
        json_schema_extra={"slider": [0.8, 2]},
    )  # fmt: skip
    align: Literal["left", "centre", "right"] = Field(
        "centre", title="align", description="What of each line lies at x.",
        json_schema_extra={"labels": {"left": "Left", "centre": "Centre", "right": "Right"}},
    )  # fmt: skip
    vertical: Literal["top", "middle", "bottom"] = Field(
        "middle", title="vertical", description="What of all lines lies at y.",
        json_schema_extra={"labels": {"top": "Top", "middle": "Middle", "bottom": "Bottom"}},
    )  # fmt: skip
    x: float = place_field("x")
    y: float = place_field("y")
    box: float = Field(
        0.0, ge=0, le=1e5, title="box width", description="Lines are broken to it; 0 breaks none.",
        json_schema_extra={"unit": "px", "slider": [0, 2000]},
    )  # fmt: skip
    colour: Colour = colour_field("fill")
    alpha: float = share_field("fill alpha")
    outline: float = Field(
        0.0, ge=0, le=1000, title="outline", description="Its width around the letters.",
        json_schema_extra={"unit": "px", "slider": [0, 30]},
    )  # fmt: skip
    outline_colour: Colour = colour_field("outline colour", default=(0.0, 0.0, 0.0))
    outline_alpha: float = share_field("outline alpha")

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        outlines = self._outlines(canvas)
        wide = self.outline * canvas.share
        box = canvas.box_around(outlines, wide + EDGE)
        if not outlines:
            return painted(canvas, box, [])
        corner = np.array((box.x0, box.y0), np.float64)
        moved = [corners - corner for corners in outlines]
        fill = coverage(moved, box.height, box.width)
        layers = [Laid(self.colour, self.alpha, fill)]
        if wide > 0:
            layers.insert(0, Laid(self.outline_colour, self.outline_alpha, _around(moved, fill, wide, box)))
        return painted(canvas, box, layers)

    def reach(self, canvas: Canvas) -> Box:
        outlines = self._outlines(canvas)
        return bounds_of(outlines, self.outline * canvas.share) if outlines else NOTHING

    def _outlines(self, canvas: Canvas) -> list[Points]:
        share, (mx, my) = canvas.share, canvas.middle
        setting = Setting(
            self.font, self.size * share, self.weight, self.tracking, self.leading, self.align,
            self.vertical, self.box * share,
        )  # fmt: skip
        shift = self.x * share + mx, self.y * share + my
        return [corners for letter in text_outlines(self.text, setting, shift) for corners in letter]

    def words(self) -> str:
        return self.text.strip().partition("\n")[0][:40] or "empty"


def _around(outlines: list[Points], fill: Plane, width: float, box: Box) -> Plane:
    """``(H, W)`` of the letters made wider by a width on every side."""
    reach = width + 0.5
    squared = squared_distances(outlines, reach, (0, 0, box.width, box.height), closed=True)
    return np.maximum(fill, np.clip(np.float32(reach) - np.sqrt(squared), 0, 1))
