"""Exposure: light doubled or halved. One stop is a factor of 2 (common practice, no source)."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.jit import kernel
from ..picture import Plane
from .value import ValueStep


@kernel
def times(x, out, factor):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = x[i] * factor


class ExposureStep(ValueStep):
    """More or less light, in stops."""

    title: ClassVar[str] = "Exposure"
    help: ClassVar[str] = "Doubles or halves the light a stop at a time."

    kind: Literal["exposure"] = "exposure"
    stops: float = Field(
        0.0, ge=-20, le=20, title="stops", description="Each doubles the light.",
        json_schema_extra={"unit": "stops", "slider": [-4, 4]},
    )  # fmt: skip

    def value(self, x: Plane, out: Plane) -> None:
        times(x, out, np.float32(2.0**self.stops))

    def words(self) -> str:
        return f"{self.stops:+.2f} stops"
