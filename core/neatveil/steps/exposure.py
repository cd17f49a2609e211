"""Exposure: light doubled or halved. One stop is a factor of 2 (common practice, no source)."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from .linear import Linear
from .value import LinearStep


class ExposureStep(LinearStep):
    """More or less light, in stops."""

    title: ClassVar[str] = "Exposure"
    help: ClassVar[str] = "Doubles or halves the light a stop at a time."

    kind: Literal["exposure"] = "exposure"
    stops: float = Field(
        0.0, ge=-20, le=20, title="stops", description="Each doubles the light.",
        json_schema_extra={"unit": "stops", "slider": [-4, 4]},
    )  # fmt: skip

    def linear(self) -> Linear:
        return Linear.each(self.channels, 2.0**self.stops, 0)

    def words(self) -> str:
        return f"{self.stops:+.2f} stops"
