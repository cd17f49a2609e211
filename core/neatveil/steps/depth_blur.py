"""Blurred by distance from a plane of focus, as a lens does: sources as of `numeric.defocus`.

A point at distance d is seen as a disc; its radius is ``size * |d - focus| / d``, where ``size`` is what a
point infinitely far away spreads over (thin lens, Potmesil & Chakravarty 1982 [Potmesil1982]).
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from math import ceil, cos, pi, radians, sin, tan
from typing import ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..errors import ValueRefused
from ..numeric.blocks import new_array
from ..numeric.defocus import SHARP, defocused
from ..numeric.pool import for_strips
from ..picture import RGBA, Plane, PremultipliedPicture
from .base import Family, Fetch, scaled
from .blur import disc
from .data_channels import border_field
from .distance import DistanceStep

#: What is before the focus, and what is behind it, where the circles are shown.
NEAR_TINT, FAR_TINT = (1.0, 0.35, 0.0), (0.0, 0.4, 1.0)


class DepthBlurStep(DistanceStep):
    """Blur by depth."""

    title: ClassVar[str] = "Depth blur"
    help: ClassVar[str] = "Blurs by the distance from a plane of focus, as a lens does."
    family: ClassVar[Family] = "edges"

    kind: Literal["depth_blur"] = "depth_blur"
    focus: float = Field(
        5.0, gt=0, le=1e9, title="focus", description="Distance that is sharp.",
        json_schema_extra={"unit": "distance", "slider": [0.1, 20]},
    )  # fmt: skip
    in_focus: float = Field(
        0.0, ge=0, le=1e9, title="in focus", description="How deep the space is that stays sharp, half of it "
        "on either side.", json_schema_extra={"slider": [0, 5]},
    )  # fmt: skip
    by: Literal["size", "lens"] = Field(
        "size", title="by", json_schema_extra={"labels": {"size": "Size", "lens": "Lens"}}
    )
    size: float = Field(
        8.0, ge=0, le=1000, title="size", description="Radius that a point infinitely far away spreads over.",
        json_schema_extra={"unit": "px", "slider": [0, 40]},
    )  # fmt: skip
    focal_length: float = Field(
        0.0, ge=0, le=10000, title="focal length", description="0: as the comp's camera sees.",
        json_schema_extra={"unit": "mm", "slider": [0, 200]},
    )  # fmt: skip
    f_number: float = Field(2.8, gt=0, le=1000, title="f-number", json_schema_extra={"slider": [0.7, 22]})
    sensor: float = Field(
        24.0, gt=0, le=1000, title="sensor height", json_schema_extra={"unit": "mm", "slider": [4, 36]}
    )
    unit: float = Field(
        1.0, gt=0, le=1e6, title="unit", description="Metres that 1 of the depth is.",
        json_schema_extra={"unit": "m", "slider": [0.01, 1]},
    )  # fmt: skip
    near_amount: float = Field(
        1.0, ge=0, le=100, title="before it", description="Of the blur before the focus.",
        json_schema_extra={"unit": "%", "slider": [0, 2]},
    )  # fmt: skip
    far_amount: float = Field(
        1.0, ge=0, le=100, title="behind it", description="Of the blur behind the focus.",
        json_schema_extra={"unit": "%", "slider": [0, 2]},
    )  # fmt: skip
    largest: float = Field(
        40.0, ge=0, le=200, title="largest", description="Radius that nothing exceeds.",
        json_schema_extra={"unit": "px", "slider": [0, 100]},
    )  # fmt: skip
    aperture: Literal["disc", "blades"] = Field(
        "disc", title="aperture", json_schema_extra={"labels": {"disc": "Disc", "blades": "Blades"}}
    )
    blades: int = Field(6, ge=3, le=16, title="blades")
    rotation: float = Field(
        0.0, ge=-36000, le=36000, title="rotation", json_schema_extra={"unit": "deg", "slider": [-90, 90]}
    )
    border: Literal["continue", "clear"] = border_field()
    show: Literal["result", "circles"] = Field(
        "result", title="show",
        description="Circles of confusion, the larger the stronger: before the focus orange, behind it blue.",
        json_schema_extra={"labels": {"result": "Result", "circles": "Circles"}},
    )  # fmt: skip

    @property
    def by_camera(self) -> bool:
        return self.by == "lens" and self.focal_length == 0

    def changes_nothing(self, level: int) -> bool:
        still = self.by == "size" and scaled(self.size, level) == 0
        return self.show == "result" and (still or scaled(self.largest, level) <= SHARP)

    def by_data(self, full: PremultipliedPicture, level: int, fetch: Fetch) -> Mapping[str, Plane]:
        distance = self.distance(full, fetch)
        size = self._at_infinity(full.display_window.height, level, fetch.angle_of_view())
        coc = self._circles(distance, size, scaled(self.largest, level))
        planes = [full[n] for n in RGBA]
        if self.show == "circles":
            done = _tinted(planes, coc, scaled(self.largest, level))
        else:
            done = defocused(planes, coc, self._aperture, clear=self.border == "clear")
        return dict(zip(RGBA, done, strict=True))

    def _at_infinity(self, height: int, level: int, angle: float | None) -> float:
        """Radius in pixels of the level that a point infinitely far away spreads over."""
        if self.by == "size":
            return scaled(self.size, level)
        focal = self.focal_length
        if not focal:
            if angle is None:
                raise ValueRefused(
                    "The comp has no camera to take the focal length from.",
                    advice="Give a focal length, lay a render in, or blur by size.",
                )
            focal = self.sensor / 2 / tan(angle / 2)
        away = self.focus * self.unit * 1000
        if away <= focal:
            raise ValueRefused(
                f"A lens of {focal:g} mm cannot focus {away:g} mm before it.",
                advice="Focus further away, or say how many metres 1 of the depth is.",
            )
        return focal * focal / (self.f_number * (away - focal)) / 2 / self.sensor * height

    def _circles(self, distance: Plane, size: float, largest: float) -> Plane:
        """Radii, below 0 before the focus."""
        out = new_array(distance.shape)
        focus, half = np.float32(self.focus), np.float32(self.in_focus / 2)
        near, far = np.float32(size * self.near_amount), np.float32(size * self.far_amount)
        most = np.float32(largest)

        def strip(a: int, b: int) -> None:
            d = distance[a:b]
            away = d - focus
            away = np.sign(away) * np.maximum(np.abs(away) - half, 0)
            np.clip(away / d * np.where(away < 0, near, far), -most, most, out=out[a:b])

        for_strips(distance.shape[0], distance.shape[1], strip)
        return out

    def _aperture(self, radius: float) -> Plane:
        return disc(radius) if self.aperture == "disc" else polygon(radius, self.blades, self.rotation)

    def words(self) -> str:
        if self.show == "circles":
            return "circles"
        how = f"{self.size:g} px" if self.by == "size" else f"f/{self.f_number:g}"
        return f"focus {self.focus:g}, {how}"


@lru_cache(maxsize=128)
def polygon(radius: float, sides: int, rotation: float) -> Plane:
    """Weights of a regular polygon with the area of a disc: each pixel's share of it. A corner points up."""
    outer = radius * (2 * pi / (sides * sin(2 * pi / sides))) ** 0.5
    reach, fine = ceil(outer + 0.5), 16
    side = 2 * reach + 1
    turns = [radians(rotation - 90) + 2 * pi * k / sides for k in range(sides)]
    corners = np.array([(outer * cos(t) + reach + 0.5, outer * sin(t) + reach + 0.5) for t in turns])
    drawn = np.zeros((side * fine, side * fine), np.uint8)
    cv2.fillConvexPoly(drawn, np.rint((corners * fine - 0.5) * 256).astype(np.int32), 1, cv2.LINE_8, 8)
    weights = drawn.reshape(side, fine, side, fine).mean((1, 3))
    return np.asarray(weights / weights.sum(), np.float32)


def _tinted(planes: list[Plane], coc: Plane, largest: float) -> list[Plane]:
    """The picture's grey with the circles over it: opaque where one is as large as any."""
    r, g, b, a = planes
    grey = (r + g + b) * np.float32(1 / 3)
    size = np.sqrt(np.clip(np.abs(coc) / np.float32(max(largest, SHARP)), 0, 1))
    share = np.where(np.abs(coc) > SHARP, size, np.float32(0)) * np.float32(0.85) * a
    near = coc < 0
    out: list[Plane] = [
        np.asarray(grey + share * (np.where(near, np.float32(n), np.float32(f)) - grey), np.float32)
        for n, f in zip(NEAR_TINT, FAR_TINT, strict=True)
    ]
    return [*out, a.copy()]
