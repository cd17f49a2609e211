"""A picture put on the surface that a UV pass describes, without rendering again.

Where a pixel is one surface alone, its place on the picture is taken as it stands; where the edge mixes it
with what is beside, the place is continued from the nearest pixel that is whole, and what is seen is cut by
the coverage. So an anti-aliased UV pass and one that holds single samples give the same edge.

Sources: as of `numeric.texture`.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.texture import LookUp, Map, looked_up
from ..picture import RGBA, Plane, PremultipliedPicture
from ..picture.frame_pyramid import frame_pyramid
from .base import Family, Fetch
from .data_channels import channel_field, data_planes
from .extra_channels import whole_picture
from .second_source import SecondStep
from .warp import only_channels


class UVMapStep(SecondStep):
    """Put a picture on the surface."""

    title: ClassVar[str] = "UV map"
    help: ClassVar[str] = "Puts a picture on the surface that the layer's UV pass describes."
    family: ClassVar[Family] = "place"

    kind: Literal["uv_map"] = "uv_map"
    u: str = channel_field("uv.U", "u from", "The channel that says how far right on the picture a pixel is.")
    v: str = channel_field("uv.V", "v from", "The channel that says how far down.")
    coverage: str = channel_field(
        "",
        "covers",
        "The channel that says where it is seen, such as an object mask; empty is the alpha.",
        "the alpha",
    )
    surfaces: str = channel_field(
        "", "surfaces", "A channel with one value a surface, such as IDs: the map is not followed from one "
        "to another.", "not told",
    )  # fmt: skip
    laid: Literal["alone", "over"] = Field(
        "over", title="laid", json_schema_extra={"labels": {"over": "Over the layer", "alone": "Alone"}}
    )
    filtering: bool = Field(
        True, title="filtered", description="By how fast the map runs over the picture, so that nothing "
        "shimmers where it is seen small.",
    )  # fmt: skip
    between: Literal["linear", "cubic"] = Field(
        "cubic", title="enlarged by",
        json_schema_extra={"labels": {"linear": "Linear", "cubic": "Cubic (Catmull-Rom)"}},
    )  # fmt: skip
    beyond: Literal["wrap", "mirror", "clamp", "clear"] = Field(
        "wrap", title="beyond", description="What the picture is outside of 0 to 1.",
        json_schema_extra={
            "labels": {"wrap": "Wrap", "mirror": "Mirror", "clamp": "Clamp", "clear": "Clear"}
        },
    )  # fmt: skip
    swap: bool = Field(False, title="swap u and v")
    flip_u: bool = Field(False, title="flip u")
    flip_v: bool = Field(False, title="flip v", description="For maps that count up the picture.")
    turned: Literal["0", "90", "180", "270"] = Field(
        "0", title="turned", description="The picture, clockwise.",
        json_schema_extra={"labels": {"0": "0°", "90": "90°", "180": "180°", "270": "270°"}},
    )  # fmt: skip
    scale_u: float = Field(
        1.0, ge=-1000, le=1000, title="scale u", description="How much of the picture is seen across.",
        json_schema_extra={"slider": [0.1, 4]},
    )  # fmt: skip
    scale_v: float = Field(1.0, ge=-1000, le=1000, title="scale v", json_schema_extra={"slider": [0.1, 4]})
    offset_u: float = Field(0.0, ge=-1000, le=1000, title="offset u", json_schema_extra={"slider": [-1, 1]})
    offset_v: float = Field(0.0, ge=-1000, le=1000, title="offset v", json_schema_extra={"slider": [-1, 1]})

    def changes_nothing(self, level: int) -> bool:
        return not self.second and self.laid == "over"

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        """Without a map nothing is seen of the other picture."""
        if self.laid == "over":
            return picture
        return picture.with_planes({n: np.zeros_like(p) for n, p in picture.planes.items()})

    def apply_with_sources(
        self, picture: PremultipliedPicture, level: int, frame: int, fetch: Fetch | None
    ) -> PremultipliedPicture:
        full = whole_picture(picture)
        if fetch is None or not self.second:
            return only_channels(full, self.whole(full, level, frame), self.channels)
        pyramid = frame_pyramid(fetch(self.second, ()), self.filtering)
        how = LookUp(self.matrix(), self.filtering, self.between, self.beyond)
        where = self._map(full, fetch)
        planes = dict(zip(RGBA, looked_up(where, pyramid, how), strict=True))
        if self.laid == "over":
            # what is covered is a share of what the layer covers: laid by over, the edge would count twice
            most = np.maximum(full["A"], where.share)
            beside = 1 - planes["A"] / np.where(most > 0, most, np.float32(1))
            for n in RGBA:
                planes[n] += full[n] * beside
        done = PremultipliedPicture(planes, full.data_window, full.display_window)
        return only_channels(full, done, self.channels)

    def _map(self, full: PremultipliedPicture, fetch: Fetch) -> Map:
        """By channels over the frame: of the picture, or of the layer's element."""
        found = data_planes(full, fetch, (self.u, self.v, self.coverage, self.surfaces))
        share = found[self.coverage] if self.coverage else full["A"]
        return Map.of(found[self.u], found[self.v], share, found[self.surfaces] if self.surfaces else None)

    def matrix(self) -> Plane:
        """``(2, 3)``: from the pass's values to places in 0..1 of the picture."""
        m = np.eye(3)
        if self.swap:
            m = np.array([[0, 1, 0], [1, 0, 0], [0, 0, 1.0]]) @ m
        if self.flip_u:
            m = np.array([[-1, 0, 1], [0, 1, 0], [0, 0, 1.0]]) @ m
        if self.flip_v:
            m = np.array([[1, 0, 0], [0, -1, 1], [0, 0, 1.0]]) @ m
        m = np.array([[self.scale_u, 0, self.offset_u], [0, self.scale_v, self.offset_v], [0, 0, 1]]) @ m
        # what is seen at (s, t) of the picture turned clockwise lies at (t, 1 - s) of the picture itself
        back = np.array([[0, 1, 0], [-1, 0, 1], [0, 0, 1.0]])
        for _ in range(int(self.turned) // 90):
            m = back @ m
        return np.asarray(m[:2], np.float32)

    def words(self) -> str:
        name = self.second.removeprefix("layer:") or "nothing"
        return f"{name}, {self.laid}"
