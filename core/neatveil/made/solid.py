"""One colour everywhere."""

from __future__ import annotations

from typing import ClassVar, Literal

from ..picture import PremultipliedPicture
from .base import Canvas, Colour, Laid, Made, colour_field, painted, share_field


class SolidMade(Made):
    """One colour."""

    title: ClassVar[str] = "Solid"
    help: ClassVar[str] = "One colour over the whole canvas."
    rank: ClassVar[int] = 30

    kind: Literal["solid"] = "solid"
    colour: Colour = colour_field("colour", default=(0.18, 0.18, 0.18))
    alpha: float = share_field("alpha")

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        return painted(canvas, canvas.frame, [Laid(self.colour, self.alpha, 1.0)])

    def words(self) -> str:
        return "one colour"
