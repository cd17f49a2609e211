"""One more lamp on what is rendered, by its normals: ``C' = C * (stays + lamp * max(0, n . l))``.

The rendered colour stands for the surface's own (Lambert's cosine law [Lambert1760]); shadows are not known.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.camera import facing
from ..numeric.edge_data import carried_over_edge
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, new_planes
from .base import Family, Fetch, LightTriple
from .data_channels import DataStep, channel_field, data_planes


class RelightStep(DataStep):
    """Add a lamp."""

    title: ClassVar[str] = "Relight"
    help: ClassVar[str] = "Adds a lamp by the layer's normals, without shadows."
    family: ClassVar[Family] = "light"

    kind: Literal["relight"] = "relight"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    x: str = channel_field("normal.X", "x from", "The channel of the normals' x, to the right.")
    y: str = channel_field("normal.Y", "y from", "The channel of their y, up.")
    z: str = channel_field("normal.Z", "z from", "The channel of their z, to the front.")
    stored: Literal["numbers", "codes"] = Field(
        "numbers", title="stored as",
        json_schema_extra={"labels": {"numbers": "-1 to 1", "codes": "Codes 0 to 1"}},
    )  # fmt: skip
    azimuth: float = Field(
        45.0, ge=-36000, le=36000, title="azimuth", description="Where the lamp stands: 0 is the front, 90 "
        "the right.", json_schema_extra={"unit": "deg", "slider": [-180, 180]},
    )  # fmt: skip
    elevation: float = Field(
        30.0, ge=-90, le=90, title="elevation", description="How high it stands.",
        json_schema_extra={"unit": "deg", "slider": [-90, 90]},
    )  # fmt: skip
    lamp: LightTriple = Field(
        (0.5, 0.5, 0.5), title="lamp", description="Its light, beside what is there.",
        json_schema_extra={"unit": "rgb", "slider": [0, 4]},
    )  # fmt: skip
    stays: float = Field(
        1.0, ge=0, le=100, title="stays", description="How much of the light that is there stays.",
        json_schema_extra={"unit": "%", "slider": [0, 2]},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.stays == 1 and not any(self.lamp)

    def by_data(self, full: PremultipliedPicture, level: int, fetch: Fetch) -> Mapping[str, Plane]:
        names = self.x, self.y, self.z
        found = data_planes(full, fetch, names)
        normals = carried_over_edge([found[n] for n in names], full["A"])
        to_lamp = facing(self.azimuth, self.elevation, 0.0)[:, 2].astype(np.float32)
        height, width = full["A"].shape
        planes = new_planes("RGB", height, width)

        def strip(a: int, b: int) -> None:
            n = np.stack([p[a:b] for p in normals])
            if self.stored == "codes":
                n = n * np.float32(2) - np.float32(1)
            with np.errstate(invalid="ignore", over="ignore"):
                length = np.sqrt((n * n).sum(axis=0))
                cosine = np.einsum("c,chw->hw", to_lamp, n) / np.where(length > 0, length, np.float32(1))
            cosine = np.maximum(np.nan_to_num(cosine, nan=0.0, posinf=0.0, neginf=0.0), 0)
            for name, light in zip("RGB", self.lamp, strict=True):
                planes[name][a:b] = full[name][a:b] * (np.float32(self.stays) + np.float32(light) * cosine)

        for_strips(height, width, strip)
        return planes

    def words(self) -> str:
        return f"from {self.azimuth:g}, {self.elevation:g} degrees"
