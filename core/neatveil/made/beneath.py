"""All that lies beneath the layer in its group, or in the comp: for steps that change it together."""

from __future__ import annotations

from typing import ClassVar, Literal

from ..picture import PremultipliedPicture, new_planes
from .base import NOTHING, Canvas, Made


class BeneathMade(Made):
    """What the layers beneath make together. The evaluator finds it: by itself it is nothing."""

    title: ClassVar[str] = "Adjustment"
    help: ClassVar[str] = (
        "Its steps change all that lies beneath it in its group, through its matte. Moved, or with a blend "
        "mode of its own, it is a copy of that."
    )
    rank: ClassVar[int] = 60

    kind: Literal["beneath"] = "beneath"

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        planes = new_planes("RGBA", NOTHING.height, NOTHING.width, zero=True)
        return PremultipliedPicture(planes, NOTHING, canvas.frame)

    def words(self) -> str:
        return "all beneath it"
