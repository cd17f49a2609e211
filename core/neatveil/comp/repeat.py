"""One layer many times: how each copy differs from the one before, and by chance."""

from __future__ import annotations

from typing import Literal, NamedTuple

from pydantic import Field

from .elements import DocumentModel

#: Most copies of one layer.
COPIES = 2000


class Repeat(DocumentModel):
    """Copies of a layer, merged over each other and then laid as one.

    Copy n, from 0 on, is moved, turned, scaled, delayed and faded n times. Chance is added to that, within
    the limits given, by a hash of the seed, the copy's number and the field.
    """

    count: int = Field(2, ge=1, le=COPIES, title="copies")
    x: float = Field(
        0.0,
        ge=-100000,
        le=100000,
        title="x",
        description="Each is moved right by.",
        json_schema_extra={"unit": "px"},
    )
    y: float = Field(
        0.0,
        ge=-100000,
        le=100000,
        title="y",
        description="Each is moved down by.",
        json_schema_extra={"unit": "px"},
    )
    scale: float = Field(1.0, gt=0.01, le=10, title="scale", description="Each is larger by this factor.")
    rotation: float = Field(
        0.0, ge=-3600, le=3600, title="rotation", description="Each is turned further by.",
        json_schema_extra={"unit": "deg"},
    )  # fmt: skip
    time: int = Field(0, ge=-100000, le=100000, title="time", description="Frames that each starts later.")
    opacity: float = Field(1.0, ge=0, le=1, title="opacity", description="Each is fainter by this factor.")
    chance_x: float = Field(
        0.0, ge=0, le=100000, title="x", description="At most, either way.", json_schema_extra={"unit": "px"}
    )
    chance_y: float = Field(
        0.0, ge=0, le=100000, title="y", description="At most, either way.", json_schema_extra={"unit": "px"}
    )
    chance_scale: float = Field(0.0, ge=0, le=0.9, title="scale", description="Share, at most, either way.")
    chance_rotation: float = Field(
        0.0, ge=0, le=360, title="rotation", description="At most, either way.",
        json_schema_extra={"unit": "deg"},
    )  # fmt: skip
    chance_time: int = Field(0, ge=0, le=100000, title="time", description="Frames at most, either way.")
    chance_opacity: float = Field(0.0, ge=0, le=1, title="opacity", description="Share taken away at most.")
    seed: int = Field(0, ge=0, le=999999, title="seed", description="Another seed, other chances.")
    order: Literal["first-behind", "first-in-front", "larger-in-front"] = Field(
        "first-behind", title="order", description="Which copy lies in front of which.",
        json_schema_extra={"labels": {
            "first-behind": "First behind", "first-in-front": "First in front",
            "larger-in-front": "Larger in front",
        }},
    )  # fmt: skip


class Copy(NamedTuple):
    """How a copy differs from the layer: moves in pixels, degrees, frames; factors of scale and opacity."""

    number: int
    x: float
    y: float
    scale: float
    rotation: float
    time: int
    opacity: float


def copies_of(repeat: Repeat) -> list[Copy]:
    """The copies, the farthest first.

    Examples
    --------
    >>> [(c.number, c.x, c.time) for c in copies_of(Repeat(count=3, x=10, time=2))]
    [(0, 0.0, 0), (1, 10.0, 2), (2, 20.0, 4)]
    """
    found = [_copy(repeat, n) for n in range(repeat.count)]
    if repeat.order == "first-in-front":
        return found[::-1]
    if repeat.order == "larger-in-front":
        return sorted(found, key=lambda c: c.scale)
    return found


def _copy(repeat: Repeat, n: int) -> Copy:
    def chance(field: int) -> float:
        return chance_of(repeat.seed, n, field)

    return Copy(
        n,
        n * repeat.x + repeat.chance_x * chance(0),
        n * repeat.y + repeat.chance_y * chance(1),
        repeat.scale**n * (1 + repeat.chance_scale * chance(2)),
        n * repeat.rotation + repeat.chance_rotation * chance(3),
        n * repeat.time + round(repeat.chance_time * chance(4)),
        repeat.opacity**n * (1 - repeat.chance_opacity * (chance(5) + 1) / 2),
    )


def chance_of(seed: int, copy: int, field: int) -> float:
    """-1 to 1, the same for the same numbers.

    Source: the 32-bit mixing function "lowbias32" of Wellons 2018, from memory.
    """
    mask = 0xFFFFFFFF
    x = (seed * 0x9E3779B1 + copy * 0x85EBCA77 + field * 0xC2B2AE3D + 1) & mask
    x = ((x ^ (x >> 16)) * 0x7FEB352D) & mask
    x = ((x ^ (x >> 15)) * 0x846CA68B) & mask
    x ^= x >> 16
    return x / 0x7FFFFFFF - 1
