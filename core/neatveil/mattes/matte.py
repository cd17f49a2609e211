"""A matte: parts put together in order, then refined.

Sums suit edges that meet, such as the object masks of one render, whose shares of a pixel add up to 1:
``add`` is ``min(1, a + b)``, ``subtract`` is ``max(0, a - b)``, ``intersect`` the lesser, ``exclude``
``|a - b|``. Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np
from pydantic import Field

from ..animation import Animated
from ..numeric.gaussian import gaussian
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane
from .morphology import grown
from .part import Part
from .regions import without_holes, without_specks

_ONE = np.float32(1)


@kernel
def _add(a, b, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = min(a[i] + b[i], np.float32(1))


@kernel
def _subtract(a, b, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = max(a[i] - b[i], np.float32(0))


@kernel
def _intersect(a, b, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = min(a[i], b[i])


@kernel
def _exclude(a, b, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = abs(a[i] - b[i])


#: What is there and a further part, flat, into a third array that may not be one of them.
COMBINE: dict[str, Callable[..., None]] = {
    "add": _add, "subtract": _subtract, "intersect": _intersect, "exclude": _exclude,
}  # fmt: skip


class Matte(Animated):
    """Without parts it keeps everything."""

    on: bool = Field(True, title="On")
    parts: tuple[Part, ...] = Field((), max_length=100, title="Parts")
    specks: float = Field(
        0.0, ge=0, le=1e6, title="specks", description="Regions of fewer pixels than this are dropped.",
        json_schema_extra={"unit": "px", "slider": [0, 500]},
    )  # fmt: skip
    holes: float = Field(
        0.0, ge=0, le=1e6, title="holes", description="Enclosed holes of fewer pixels than this are filled.",
        json_schema_extra={"unit": "px", "slider": [0, 500]},
    )  # fmt: skip
    grow: float = Field(
        0.0, ge=-200, le=200, title="grow", description="Above 0 grows, below 0 shrinks.",
        json_schema_extra={"unit": "px", "slider": [-10, 10]},
    )  # fmt: skip
    soften: float = Field(
        0.0, ge=0, le=200, title="soften", description="Standard deviation.",
        json_schema_extra={"unit": "px", "slider": [0, 20]},
    )  # fmt: skip
    inverted: bool = Field(False, title="inverted", description="Keeps what it else would remove.")

    @property
    def works(self) -> bool:
        """Whether it may remove anything."""
        return self.on and (self.inverted or any(p.on for p in self.parts))

    def at(self, frame: float) -> Matte:
        now = super().at(frame)
        parts = tuple(p.at(frame) for p in self.parts)
        if all(a is b for a, b in zip(parts, self.parts, strict=True)):
            return now
        return now.model_copy(update={"parts": parts})

    def joined(self, planes: list[Plane]) -> Plane:
        """The kept shares of the parts that are on, in their order, as one plane."""
        parts = [p for p in self.parts if p.on]
        height, width = planes[0].shape
        total = np.empty((height, width), np.float32)

        def strip(y0: int, y1: int) -> None:
            rows = planes[0][y0:y1].reshape(-1)
            # the first stands alone, or is taken out of everything
            now = rows if parts[0].how != "subtract" else np.asarray(_ONE - rows)
            spare = [total[y0:y1].reshape(-1), np.empty_like(now) if len(parts) > 2 else now]
            for i, (part, plane) in enumerate(zip(parts[1:], planes[1:], strict=True)):
                # ends in the total
                out = spare[(len(parts) - i) % 2]
                COMBINE[part.how](now, plane[y0:y1].reshape(-1), out)
                now = out
            if len(parts) == 1:
                spare[0][:] = now

        for_strips(height, width, strip)
        return total

    def refined(self, plane: Plane, level: int) -> Plane:
        """Cleaned, grown, softened and inverted; lengths are divided by ``2 ** level``, areas twice."""
        share = 2.0**-level
        if self.specks:
            plane = without_specks(plane, self.specks * share * share)
        if self.holes:
            plane = without_holes(plane, self.holes * share * share)
        if self.grow:
            plane = grown(plane, self.grow * share)
        if self.soften * share > 0.05:
            line = gaussian(self.soften * share)
            plane = np.asarray(
                cv2.sepFilter2D(plane, -1, line, line, borderType=cv2.BORDER_REPLICATE), np.float32
            )
        return np.asarray(_ONE - plane) if self.inverted else plane
