"""What a file says of itself, and what a first look at its pixels adds."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from ..channels.data_kinds import DATA_KINDS, data_kind

AlphaUse = Literal["none", "opaque", "empty", "used", "unknown"]


class ChannelFact(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: str
    sample: str = Field(description="uint8, uint10, uint16, half, float ...")
    data: bool = Field(False, description="Holds data (depth, UV, motion ...), not colour.")
    low: float | None = Field(None, description="Least value in the frames that were looked at.")
    high: float | None = Field(None, description="Largest value in them.")


class Facts(BaseModel):
    """The facts of a still, a sequence or a movie. Frame numbers are inclusive."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["still", "sequence", "movie"]
    name: str
    format: str = Field(description="Name of the file format, e.g. PNG.")
    width: int
    height: int
    data_window: list[int] | None = Field(None, description="x0, y0, x1, y1 where it differs from the frame.")
    first: int = 0
    last: int = 0
    count: int = Field(1, description="Frames really there.")
    missing: list[int] = []
    odd_sizes: dict[int, list[int]] = Field({}, description="Frames of another size.")
    rate: str | None = Field(None, description="Exact, as a fraction such as 24000/1001.")
    codec: str = ""
    pixel_format: str = ""
    bit_depth: int = 8
    channels: list[ChannelFact] = []
    objects: dict[str, list[str]] = Field(
        {}, description="Names of objects that ID ranks tell apart, by the name of the layer that holds them."
    )
    alpha: bool = False
    alpha_use: AlphaUse = "unknown"
    alpha_claim: Literal["straight", "premultiplied"] | None = None
    alpha_claim_by: str = Field("", description="What the claim rests on.")
    encoding: str = "srgb"
    encoding_by: str = ""
    holds: str = Field("", description="Kind of data where it holds no colour: depth, uv, motion ...")
    holds_by: str = Field("", description="What says so.")
    bytes: int = 0
    limits: list[str] = Field([], description="What its codec or format cannot do, in sentences.")
    notes: list[str] = Field([], description="What a person should know, in sentences.")

    @property
    def data_channels(self) -> list[str]:
        return [c.name for c in self.channels if c.data]

    def with_data_kind(self) -> Facts:
        """With the kind of data that it holds instead of colour, where its names say so."""
        fine = self.kind != "movie" and self.bit_depth >= 16
        kind, by = data_kind(self.name, [(c.name, c.data) for c in self.channels], fine)
        if not kind:
            return self
        notes = self.notes
        if self.bit_depth < 16 and by == "the file's name":
            title = DATA_KINDS[kind].title
            notes = [*notes, f"It holds {title} in {self.bit_depth} bits; 16 or more are needed."]
        return self.model_copy(update={"holds": kind, "holds_by": by, "notes": notes})
