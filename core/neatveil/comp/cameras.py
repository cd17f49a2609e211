"""Cameras and lights of rendered sets, kept in a comp so that layers can stand in their scenes."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, model_validator

from .elements import DocumentModel, Name
from .rate import Rate

_Number = Annotated[float, Field(ge=-1e9, le=1e9)]
_Row = tuple[_Number, _Number, _Number, _Number]
#: From a space of its own to the world's, row by row; scene units, +Y up.
PlaceMatrix = tuple[_Row, _Row, _Row]


class SceneLight(DocumentModel):
    """A light of a rendered scene, its colour and intensity as at the first frame.

    Directional ones shine along their own -Z.
    """

    name: Name
    kind: str = Field(max_length=40)
    colour: tuple[float, float, float] = Field((1.0, 1.0, 1.0), description="Linear light.")
    intensity: float = Field(1.0, description="Lux, or candela.")
    places: tuple[PlaceMatrix, ...] = Field(
        min_length=1, description="One a frame, or one alone where it does not move."
    )


class SceneCamera(DocumentModel):
    """The camera that a set was rendered with, frame by frame, and its lights."""

    name: Name
    width: int = Field(ge=1, le=16384, description="Of the frames that it sees, as they were ordered.")
    height: int = Field(ge=1, le=16384)
    rate: Rate
    first: int = Field(description="Frame of the first place.")
    places: tuple[PlaceMatrix, ...] = Field(
        min_length=1, description="Camera to world, one a frame, or one alone where it does not move."
    )
    yfov: tuple[Annotated[float, Field(gt=0, lt=3.14)], ...] = Field(
        min_length=1, description="Angle of view from top to bottom in radians, likewise."
    )
    lights: tuple[SceneLight, ...] = ()

    @model_validator(mode="after")
    def _even(self) -> Self:
        counts = {len(x) for x in (self.places, self.yfov, *(light.places for light in self.lights))}
        if len(counts - {1}) > 1:
            raise ValueError("camera and lights have places for different numbers of frames")
        return self

    @property
    def last(self) -> int:
        return self.first + max(len(self.places), len(self.yfov)) - 1

    def place_at(self, frame: int) -> PlaceMatrix:
        """Where it stands at a frame of its own; before and after its frames as at their ends."""
        return self.places[self._row(frame, len(self.places))]

    def yfov_at(self, frame: int) -> float:
        return self.yfov[self._row(frame, len(self.yfov))]

    def _row(self, frame: int, count: int) -> int:
        return min(max(frame - self.first, 0), count - 1)
