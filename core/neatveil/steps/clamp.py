"""Values kept within two limits."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.jit import kernel
from ..picture import Plane
from .value import ValueStep


@kernel
def _limited(x, out, low, high):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        v = x[i] if x[i] > low else low
        out[i] = v if v < high else high


class ClampStep(ValueStep):
    """Keep values within limits."""

    title: ClassVar[str] = "Clamp"
    help: ClassVar[str] = "Takes values beyond two limits back to them."

    kind: Literal["clamp"] = "clamp"
    low: float = Field(
        0.0, ge=-1000, le=1000, title="least", json_schema_extra={"unit": "code", "slider": [0, 1]}
    )
    high: float = Field(
        1.0, ge=-1000, le=1000, title="most", json_schema_extra={"unit": "code", "slider": [0, 1]}
    )

    def value(self, x: Plane, out: Plane) -> None:
        _limited(x, out, np.float32(self.low), np.float32(self.high))

    def words(self) -> str:
        return f"{self.low:g} to {self.high:g}"
