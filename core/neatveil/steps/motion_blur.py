"""Blurred by the movement that a pass of motion vectors gives: sources as of `numeric.vector_blur`.

Where an edge mixes a pixel with what is beside, its vector is that of the nearest pixel that is one surface
alone: so vectors that were anti-aliased, and such that hold single samples, give the same.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..numeric.blocks import new_array
from ..numeric.pool import for_strips
from ..numeric.vector_blur import moments_of, vector_blurred
from ..picture import RGBA, Plane, PremultipliedPicture
from .base import Family, Fetch, scaled
from .data_channels import DataStep, border_field, channel_field, data_planes

#: From one arrow to the next where vectors are shown, in pixels.
GRID = 32


class MotionBlurStep(DataStep):
    """Blur by motion vectors."""

    title: ClassVar[str] = "Motion blur"
    help: ClassVar[str] = "Blurs by the layer's motion vectors. It comes after textures and reflections."
    family: ClassVar[Family] = "place"

    kind: Literal["motion_blur"] = "motion_blur"
    x: str = channel_field("motion.X", "x from", "The channel that says how far right a pixel moves.")
    y: str = channel_field("motion.Y", "y from", "The channel that says how far down.")
    stored: Literal["pixels", "codes"] = Field(
        "pixels", title="stored as", description="Codes: 0.5 is no movement, 0 and 1 are the maximum.",
        json_schema_extra={"labels": {"pixels": "Pixels a frame", "codes": "Codes 0 to 1"}},
    )  # fmt: skip
    maximum: float = Field(
        64.0, gt=0, le=65536, title="maximum", description="What codes of 0 and 1 stand for: the number that "
        "the render was made with.", json_schema_extra={"unit": "px", "slider": [1, 256]},
    )  # fmt: skip
    flip_x: bool = Field(False, title="flip x")
    flip_y: bool = Field(False, title="flip y", description="For vectors that count up the picture.")
    scale: float = Field(
        1.0, ge=-1000, le=1000, title="scale", description="Of the vectors: -1 for those that point back.",
        json_schema_extra={"slider": [-2, 2]},
    )  # fmt: skip
    shutter: float = Field(
        0.5, ge=0, le=4, title="shutter", description="Frames for which it is open.",
        json_schema_extra={"unit": "fr", "slider": [0, 1]},
    )  # fmt: skip
    phase: float = Field(
        0.0, ge=-2, le=2, title="phase", description="When the shutter's middle is: 0 is the frame.",
        json_schema_extra={"unit": "fr", "slider": [-0.5, 0.5]},
    )  # fmt: skip
    samples: int = Field(
        16, ge=2, le=256, title="shutter samples", description="Pictures averaged while the shutter is open."
    )
    depth: str = channel_field(
        "", "depth", "The channel that says what is in front of what: the smaller, the nearer.", "not told"
    )
    order: Literal["moving", "still"] = Field(
        "moving", title="in front", description="Where no depth tells it.",
        json_schema_extra={"labels": {"moving": "What moves more", "still": "What moves less"}},
    )  # fmt: skip
    border: Literal["continue", "clear"] = border_field()
    show: Literal["result", "vectors"] = Field(
        "result", title="show", description="Arrows: from where a pixel is to where it is a frame later.",
        json_schema_extra={"labels": {"result": "Result", "vectors": "Arrows"}},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.shutter == 0 and self.phase == 0 and self.show == "result"

    def by_data(self, full: PremultipliedPicture, level: int, fetch: Fetch) -> Mapping[str, Plane]:
        found = data_planes(full, fetch, (self.x, self.y, self.depth))
        limit = 2 * float(np.hypot(*full["A"].shape))
        vx, vy = self._vectors(found[self.x], found[self.y], level, limit)
        if self.show == "vectors":
            return _with_arrows(full, vx, vy)
        front = self._front(vx, vy, found.get(self.depth))
        moments = moments_of(self.samples, self.shutter, self.phase)
        given = [full[n] for n in RGBA]
        blurred = vector_blurred(given, vx, vy, front, moments, clear=self.border == "clear")
        return dict(zip(RGBA, blurred, strict=True))

    def _vectors(self, x: Plane, y: Plane, level: int, limit: float) -> tuple[Plane, Plane]:
        """In pixels of the level, right and down; 0 where one is no number, or longer than ``limit``."""
        out = new_array((2, *x.shape))
        most = 2 * self.maximum if self.stored == "codes" else 1.0
        factor = scaled(self.scale * most, level)
        ways = [np.float32(-factor if flip else factor) for flip in (self.flip_x, self.flip_y)]
        middle = np.float32(0.5 if self.stored == "codes" else 0.0)

        def strip(a: int, b: int) -> None:
            with np.errstate(invalid="ignore", over="ignore"):
                for given, way, to in zip((x, y), ways, out, strict=True):
                    np.subtract(given[a:b], middle, out=to[a:b])
                    np.multiply(to[a:b], way, out=to[a:b])
                wrong = ~(np.hypot(out[0, a:b], out[1, a:b]) <= limit)
            out[:, a:b][:, wrong] = 0

        for_strips(x.shape[0], x.shape[1], strip)
        return out[0], out[1]

    def _front(self, vx: Plane, vy: Plane, depth: Plane | None) -> Plane:
        if depth is not None:
            return np.asarray(-np.nan_to_num(depth, nan=1e10, posinf=1e10, neginf=1e10), np.float32)
        moves = vx * vx + vy * vy
        return np.asarray(moves if self.order == "moving" else -moves, np.float32)

    def words(self) -> str:
        if self.show == "vectors":
            return "arrows"
        return f"shutter {self.shutter:g} fr, {self.samples} samples"


def _with_arrows(full: PremultipliedPicture, vx: Plane, vy: Plane) -> dict[str, Plane]:
    """Arrows of opaque white over a darkened picture, from the middles of a grid; dots where it is still."""
    height, width = vx.shape
    drawn = np.zeros((height, width), np.uint8)
    for y in range(GRID // 2, height, GRID):
        for x in range(GRID // 2, width, GRID):
            to = round(x + float(vx[y, x])), round(y + float(vy[y, x]))
            if to == (x, y):
                cv2.circle(drawn, (x, y), 1, 255, -1, cv2.LINE_AA)
            else:
                cv2.arrowedLine(drawn, (x, y), to, 255, 1, cv2.LINE_AA, 0, 0.3)
    cover = drawn.astype(np.float32) / np.float32(255)
    dark = {n: full[n] * np.float32(0.35 if n != "A" else 1) for n in RGBA}
    return {n: p + cover * (1 - p) for n, p in dark.items()}
