"""A layer as a card: a flat picture that stands in the scene of a rendered set."""

from __future__ import annotations

from typing import Any, Literal, Self

from pydantic import Field, PrivateAttr

from ..animation import Animated


def _place(title: str) -> Any:
    return Field(
        0.0, ge=-1e6, le=1e6, title=title, description="In the scene.", json_schema_extra={"unit": "units"}
    )


def _angle(title: str, description: str) -> Any:
    return Field(
        0.0, ge=-36000, le=36000, title=title, description=description, json_schema_extra={"unit": "deg"}
    )


class Card(Animated):
    """Where a layer stands in a scene, seen by the camera of a rendered set.

    Lengths are scene units, as of glTF: x to the right, y up, z to the front. At rest a card is upright and
    faces +Z. Its frame's whole width is ``width``.
    """

    camera: str = Field(
        "", max_length=64, title="Camera", description="Key in the document's cameras; empty is the comp's."
    )
    x: float = _place("x")
    y: float = _place("y")
    z: float = _place("z")
    anchor: Literal["centre", "foot"] = Field(
        "centre", title="Anchor", description="The card's point that stands there: its middle, or the middle "
        "of its lower edge.",
    )  # fmt: skip
    width: float = Field(
        1.0, gt=1e-6, le=1e6, title="width", description="From its left edge to its right one.",
        json_schema_extra={"unit": "units"},
    )  # fmt: skip
    faces: Literal["as-turned", "camera"] = Field(
        "as-turned", title="Faces", description="Whether its angles count from +Z or from the camera."
    )
    turn: float = _angle("turn", "About its vertical; grows to the right.")
    tilt: float = _angle("tilt", "Grows as it leans back; at 90 it lies on its back.")
    roll: float = _angle("roll", "Clockwise, as it is seen.")
    offset: int = Field(
        0, ge=-1000000, le=1000000, title="Camera offset",
        description="Frames of the comp by which the camera starts late, as its render may.",
    )  # fmt: skip
    #: The frame that it is at, where it was taken from its keys.
    _frame: float = PrivateAttr(default=0.0)

    def at(self, frame: float) -> Self:
        """As of `Animated.at`; it also knows its frame, by which its camera is found."""
        now = super().at(frame)
        now = now.model_copy() if now is self else now
        now._frame = frame
        return now

    @property
    def frame(self) -> float:
        return self._frame
