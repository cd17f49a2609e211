"""Fog: with the distance the air's own light takes the place of the surface's.

``C' = C * (1 - t) + t * fog * a``. Beer-Lambert: ``t = 1 - exp(-density * way)``, the way beginning at a
distance [Lambert1760]; or even between two distances.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, new_planes
from .base import Family, Fetch, LightTriple
from .distance import DistanceStep


class FogStep(DistanceStep):
    """Let the distance fade."""

    title: ClassVar[str] = "Fog"
    help: ClassVar[str] = "Fades the layer into a colour with its distance; alpha stays."
    family: ClassVar[Family] = "light"

    kind: Literal["fog"] = "fog"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    colour: LightTriple = Field(
        (0.5, 0.55, 0.6), title="colour", description="Of the fog, in linear light.",
        json_schema_extra={"unit": "rgb", "slider": [0, 1]},
    )  # fmt: skip
    by: Literal["density", "range"] = Field(
        "density", title="thickens",
        json_schema_extra={"labels": {"density": "By density", "range": "From start to end"}},
    )  # fmt: skip
    start: float = Field(
        0.0, ge=0, le=1e9, title="start", description="Distance at which it begins.",
        json_schema_extra={"slider": [0, 50]},
    )  # fmt: skip
    end: float = Field(
        50.0, ge=0, le=1e9, title="end", description="Distance at which it is as thick as it gets.",
        json_schema_extra={"slider": [0, 200]},
    )  # fmt: skip
    density: float = Field(
        0.05, ge=0, le=1e6, title="density", description="Share of the light that is lost in a short way, "
        "for each 1 of the depth.", json_schema_extra={"slider": [0, 0.5]},
    )  # fmt: skip
    most: float = Field(
        1.0, ge=0, le=1, title="at most", description="How much it hides at the end.",
        json_schema_extra={"unit": "%"},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.most == 0 or (self.by == "density" and self.density == 0)

    def by_data(self, full: PremultipliedPicture, level: int, fetch: Fetch) -> Mapping[str, Plane]:
        distance = self.distance(full, fetch)
        height, width = distance.shape
        planes = new_planes("RGB", height, width)

        def strip(a: int, b: int) -> None:
            share = self._share(distance[a:b])
            for n, light in zip("RGB", self.colour, strict=True):
                given = full[n][a:b]
                planes[n][a:b] = given + share * (np.float32(light) * full["A"][a:b] - given)

        for_strips(height, width, strip)
        return planes

    def _share(self, distance: Plane) -> Plane:
        way = np.maximum(distance - np.float32(self.start), np.float32(0))
        if self.by == "density":
            share = -np.expm1(way * np.float32(-self.density))
        elif self.end > self.start:
            share = np.minimum(way / np.float32(self.end - self.start), np.float32(1))
        else:
            share = (way > 0).astype(np.float32)
        return np.asarray(share * np.float32(self.most), np.float32)

    def words(self) -> str:
        return f"density {self.density:g}" if self.by == "density" else f"{self.start:g} to {self.end:g}"
