"""What every part of a matte is: a grey picture, and how it comes in.

Two families. A `PicturePart` is made from the pixels of a layer or an element; a `DrawnPart` from what people
draw over the layer's own picture.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping
from typing import ClassVar, Literal, NamedTuple, Self

from pydantic import Field, model_validator

from ..animation import Animated
from ..picture import Plane

Combine = Literal["add", "subtract", "intersect", "exclude"]


class Rows(NamedTuple):
    """Some rows of the picture that a part is made from.

    ``planes``: R, G, B, A, premultiplied over black, and extra channels, ``(rows, W)``. ``second``: the same
    rows of the other picture that it names. ``first``, ``height``: where they lie in the whole picture.
    ``survey``: what was found out about the whole picture before.
    """

    planes: Mapping[str, Plane]
    second: Mapping[str, Plane] | None = None
    first: int = 0
    height: int = 0
    survey: tuple[float, ...] | None = None


def within(first: int | None, last: int | None, frame: float) -> bool:
    """Whether a frame lies between two, of which either may be left out."""
    return (first is None or frame >= first) and (last is None or frame <= last)


def check_frames(first: int | None, last: int | None) -> None:
    if first is not None and last is not None and last < first:
        raise ValueError(f"out frame {last} lies before in frame {first}")


class Part(Animated):
    """How it is combined with the parts above it. ``title``: its name in the list of kinds.

    What parts are built on has no title.
    """

    title: ClassVar[str] = ""

    kind: str
    on: bool = Field(True, title="On")
    combine: Combine = Field(
        "add", title="combine",
        description="add: kept where either keeps; subtract: taken out of what is there; "
        "intersect: only where both keep; exclude: where one of the two keeps.",
    )  # fmt: skip
    inverted: bool = Field(False, title="inverted", description="Black keeps, white removes.")
    first: int | None = Field(
        None, ge=-1000000, le=1000000, title="in frame",
        description="First comp frame on which it counts; left out, from the start on.",
    )  # fmt: skip
    last: int | None = Field(
        None, ge=-1000000, le=1000000, title="out frame",
        description="Last comp frame on which it counts; left out, to the end.",
    )  # fmt: skip

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        check_frames(self.first, self.last)
        return self

    def at(self, frame: float) -> Self:
        """As it is at a frame of the comp: off beyond its own frames."""
        now = super().at(frame)
        return now if within(self.first, self.last, frame) else now.model_copy(update={"on": False})

    @property
    def sources(self) -> tuple[str, ...]:
        """What it takes: ``layer:`` and a layer's id, an element's key, or empty for the layer itself."""
        return ()


class PicturePart(Part):
    """``source``: ``layer:`` and a layer's id, an element's key, or empty for the layer itself."""

    source: str = Field(
        "", pattern=r"^((layer:)?[A-Za-z0-9_-]{1,64})?$", title="source",
        description="Another layer, shown or hidden, or an element; the layer itself where it is left out.",
        json_schema_extra={"unit": "source"},
    )  # fmt: skip
    read: Literal["source", "steps", "placed"] = Field(
        "steps", title="read", description="As it came, after its own steps, or as it lies in the comp.",
        json_schema_extra={"labels": {
            "source": "As it came", "steps": "After its steps", "placed": "As it lies in the comp",
        }},
    )  # fmt: skip
    fit: Literal["stretch", "centre"] = Field(
        "stretch", title="sizes", json_schema_extra={"labels": {"stretch": "Stretched", "centre": "Centred"}}
    )

    @property
    def sources(self) -> tuple[str, ...]:
        return (self.source, self.second) if self.second else (self.source,)

    @property
    def second(self) -> str:
        """Another picture that it is made with, as it came; empty where there is none."""
        return ""

    @property
    def extra_channel(self) -> str:
        """The extra channel of its source that it needs; empty where R, G, B and A will do."""
        return ""

    def survey(self, planes: Mapping[str, Plane]) -> tuple[float, ...] | None:
        """What it must find out about the whole picture first; ``planes`` are those of a small one."""
        return None

    @property
    def surveys(self) -> bool:
        """Whether there is anything to find out."""
        return False

    @abstractmethod
    def values(self, rows: Rows) -> Plane:
        """``(rows, W)`` values as they are resampled where sizes or places differ; not changed by others."""

    @abstractmethod
    def kept(self, values: Plane, out: Plane | None = None) -> Plane:
        """``(H, W)`` 0..1 of such values; a new plane, or the contiguous one that is given."""

    def done(self, rows: Rows, out: Plane) -> None:
        """What is kept of some rows of its own size, into a contiguous plane."""
        self.kept(self.values(rows), out)


class Drawn(NamedTuple):
    """``cover``: how much of what is there before it hides; None where it is combined with that instead."""

    grey: Plane
    cover: Plane | None = None


class DrawnPart(Part):
    """Drawn over the layer's own picture, in its pixels, measured from its centre."""

    @abstractmethod
    def drawn(self, height: int, width: int, level: int) -> Drawn:
        """Over the whole picture of a level."""
