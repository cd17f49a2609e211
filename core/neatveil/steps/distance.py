"""Steps that go by how far away a pixel is."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import Field

from ..numeric.blocks import new_array
from ..numeric.edge_data import carried_over_edge, without_mixed_depth
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture
from .base import Fetch
from .data_channels import DataStep, channel_field, data_planes

#: As far as anything is that is nowhere.
NOWHERE = np.float32(1e10)


class DistanceStep(DataStep):
    """One that goes by a depth channel, however it is stored."""

    depth: str = channel_field("depth.Z", "depth from", "The channel that says how far away a pixel is.")
    stored: Literal["distance", "inverse", "normalised", "inverted"] = Field(
        "distance", title="stored as", description="0 to 1 lies between near and far; or from far to near.",
        json_schema_extra={
            "labels": {
                "distance": "Distance", "inverse": "1 / distance", "normalised": "0 to 1, white far",
                "inverted": "0 to 1, white near",
            }
        },
    )  # fmt: skip
    nearest: float = Field(
        1.0, ge=0, le=1e9, title="near", description="Distance that 0 to 1 begins with.",
        json_schema_extra={"slider": [0, 20]},
    )  # fmt: skip
    farthest: float = Field(
        100.0, gt=0, le=1e9, title="far", description="Distance that it ends with.",
        json_schema_extra={"slider": [0, 200]},
    )  # fmt: skip

    def distance(self, full: PremultipliedPicture, fetch: Fetch) -> Plane:
        """``(H, W)``, all above 0; an edge's pixels are as far as the surface that they belong to."""
        found = self.distances_of(data_planes(full, fetch, (self.depth,))[self.depth])
        return without_mixed_depth(carried_over_edge([found], full["A"])[0])

    def distance_of(self, value: float) -> float:
        """Of one value of the depth channel."""
        return float(self.distances_of(np.full((1, 1), value, np.float32))[0, 0])

    def distances_of(self, depth: Plane) -> Plane:
        """Of values of the depth channel; what is no distance is infinitely far away."""
        out = new_array(depth.shape)
        near, span = np.float32(self.nearest), np.float32(self.farthest - self.nearest)

        def strip(a: int, b: int) -> None:
            given, to = depth[a:b], out[a:b]
            if self.stored == "inverse":
                np.divide(np.float32(1), given, out=to)
            elif self.stored == "distance":
                to[:] = given
            else:
                to[:] = near + span * (given if self.stored == "normalised" else 1 - given)
            to[~((to > 0) & (to < NOWHERE))] = NOWHERE

        def quietly(a: int, b: int) -> None:
            with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
                strip(a, b)

        for_strips(depth.shape[0], depth.shape[1], quietly)
        return out
