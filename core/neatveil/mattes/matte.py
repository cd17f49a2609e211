"""A matte: parts put together in order, steadied over frames, then refined.

Sums suit edges that meet, such as the object masks of one render, whose shares of a pixel add up to 1:
``add`` is ``min(1, a + b)``, ``subtract`` is ``max(0, a - b)``, ``intersect`` the lesser, ``exclude``
``|a - b|``. Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

import cv2
import numpy as np
from pydantic import Field, model_validator

from ..animation import Animated
from ..numeric.blocks import new_array
from ..numeric.gaussian import gaussian
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane
from .key import KeyPart
from .kinds import PartUnion
from .morphology import grown
from .part import Drawn, check_frames, within
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


@kernel
def _lay(now, grey, cover, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = now[i] * (np.float32(1) - cover[i]) + grey[i]


@kernel
def _median(rows, out):  # type: ignore[no-untyped-def]
    """``rows``: ``(N, M)``, N odd and small; changed."""
    count = rows.shape[0]
    for i in range(out.size):
        # insertion sort of one value a frame
        for k in range(1, count):
            v, j = rows[k, i], k - 1
            while j >= 0 and rows[j, i] > v:
                rows[j + 1, i] = rows[j, i]
                j -= 1
            rows[j + 1, i] = v
        out[i] = rows[count // 2, i]


#: What is there and a further part, flat, into a third array that may not be one of them.
COMBINE: dict[str, Callable[..., None]] = {
    "add": _add, "subtract": _subtract, "intersect": _intersect, "exclude": _exclude,
}  # fmt: skip


class Matte(Animated):
    """Without parts it keeps everything."""

    on: bool = Field(True, title="On")
    parts: tuple[PartUnion, ...] = Field((), max_length=100, title="Parts")
    edge: Literal["made", "natural"] = Field(
        "made", title="edge", description="As the parts make it; or found in the layer's own picture, within "
        "a band about the edge of what they make.",
        json_schema_extra={"labels": {"made": "As made", "natural": "Found in the picture"}},
    )  # fmt: skip
    band: float = Field(
        3.0, ge=0.5, le=200, title="band", description="How far from its edge the rough matte is uncertain.",
        json_schema_extra={"unit": "px", "slider": [0.5, 30]},
    )  # fmt: skip
    trust: float = Field(
        0.001, ge=0, le=1, title="trust",
        description="How much the rough matte counts within the band, beside the picture: 0 for "
        "a sketch in three tones, more where a channel all but makes the edge.",
        json_schema_extra={"slider": [0, 0.02]},
    )  # fmt: skip
    specks: float = Field(
        0.0, ge=0, le=1e6, title="remove specks",
        description="Removes kept regions of fewer pixels than this.",
        json_schema_extra={"unit": "px", "slider": [0, 500]},
    )  # fmt: skip
    holes: float = Field(
        0.0, ge=0, le=1e6, title="fill holes", description="Fills enclosed holes of fewer pixels than this.",
        json_schema_extra={"unit": "px", "slider": [0, 500]},
    )  # fmt: skip
    steady: int = Field(
        0, ge=0, le=5, title="steady", description="The median over so many frames before and after: "
        "takes flicker out of an edge that stands still.", json_schema_extra={"unit": "fr", "slider": [0, 5]},
    )  # fmt: skip
    grow: float = Field(
        0.0, ge=-200, le=200, title="grow / shrink", description="Above 0 grows, below 0 shrinks.",
        json_schema_extra={"unit": "px", "slider": [-10, 10]},
    )  # fmt: skip
    soften: float = Field(
        0.0, ge=0, le=200, title="soften", description="Standard deviation.",
        json_schema_extra={"unit": "px", "slider": [0, 20]},
    )  # fmt: skip
    inverted: bool = Field(
        False, title="inverted", description="Keeps what it removes otherwise, and removes what it keeps."
    )
    edge_colour: Literal["plain", "inside", "front", "screen"] = Field(
        "plain", title="edge colour",
        description="What is kept in part: as it is; in the colour of what is kept in full nearby; "
        "freed of what lay behind it, by what is kept and what is removed nearby; or with the screen's "
        "light taken out of it, before the steps, where the matte keys the layer itself.",
        json_schema_extra={
            "labels": {
                "plain": "As it is", "inside": "From inside", "front": "Freed of what lay behind",
                "screen": "Remove screen colour",
            }
        },
    )  # fmt: skip
    inside: float = Field(
        0.95, ge=0, le=0.9999, title="inside from", description="Kept share from which colour is trusted.",
        json_schema_extra={"slider": [0, 1]},
    )  # fmt: skip

    first: int | None = Field(
        None, ge=-1000000, le=1000000, title="in frame",
        description="First comp frame on which it acts; left out, from the start on.",
    )  # fmt: skip
    last: int | None = Field(
        None, ge=-1000000, le=1000000, title="out frame",
        description="Last comp frame on which it acts; left out, to the end.",
    )  # fmt: skip

    @model_validator(mode="after")
    def _in_order(self) -> Matte:
        check_frames(self.first, self.last)
        return self

    @property
    def screen_key(self) -> KeyPart | None:
        """The key whose screen's light is taken out of the layer itself; None where none is to be."""
        if self.edge_colour != "screen":
            return None
        keys = (p for p in self.parts if isinstance(p, KeyPart) and p.on)
        return next((p for p in keys if p.by == "screen" and not p.source), None)

    @property
    def rough(self) -> Matte:
        """What the edge is found from: without what is done to it afterwards."""
        return Matte(
            on=self.on, parts=self.parts, edge=self.edge, band=self.band, trust=self.trust, first=self.first,
            last=self.last,
        )  # fmt: skip

    @property
    def works(self) -> bool:
        """Whether it may remove anything."""
        return self.on and (self.inverted or any(p.on for p in self.parts))

    @property
    def finds_edge(self) -> bool:
        """Whether its edge is found in the picture."""
        return self.edge == "natural" and self.works

    def at(self, frame: float) -> Matte:
        now = super().at(frame)
        if not within(self.first, self.last, frame):
            now = now.model_copy(update={"on": False})
        parts = tuple(p.at(frame) for p in self.parts)
        if all(a is b for a, b in zip(parts, self.parts, strict=True)):
            return now
        return now.model_copy(update={"parts": parts})

    def joined(self, shares: Sequence[Drawn]) -> Plane:
        """The kept shares of the parts that are on, in their order, as one plane."""
        parts = [p for p in self.parts if p.on]
        height, width = shares[0].grey.shape
        total = new_array((height, width))

        def strip(y0: int, y1: int) -> None:
            out = total[y0:y1].reshape(-1)
            rows = [
                Drawn(s.grey[y0:y1].reshape(-1), None if s.cover is None else s.cover[y0:y1].reshape(-1))
                for s in shares
            ]
            _strip([p.combine for p in parts], rows, out)

        for_strips(height, width, strip)
        return total

    def steadied(self, planes: Sequence[Plane]) -> Plane:
        """The median of the joined shares of an odd number of frames, value by value."""
        out = np.empty_like(planes[0])

        def strip(y0: int, y1: int) -> None:
            flat = np.stack([p[y0:y1].reshape(-1) for p in planes])
            _median(flat, out[y0:y1].reshape(-1))

        for_strips(out.shape[0], out.shape[1], strip)
        return out

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


def _strip(hows: Sequence[str], rows: Sequence[Drawn], total: Plane) -> None:
    """Flat shares put together into ``total``, in one pass for each after the first."""
    # the first stands alone, or is taken out of everything
    now = np.asarray(_ONE - rows[0].grey) if hows[0] == "subtract" and rows[0].cover is None else rows[0].grey
    if len(rows) == 1:
        total[:] = now
        return
    spare = [total, np.empty_like(total) if len(rows) > 2 else now]
    for i, (how, row) in enumerate(zip(hows[1:], rows[1:], strict=True), 1):
        # ends in the total
        out = spare[(len(rows) - 1 - i) % 2]
        if row.cover is None:
            COMBINE[how](now, row.grey, out)
        else:
            _lay(now, row.grey, row.cover, out)
        now = out
