"""What a comp's layers show: imported files and how they are read."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ..alpha import Reading
from ..colour.encodings import NAME_PATTERN, to_read
from .rate import Rate

Identifier = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")]
Encoding = Annotated[str, Field(pattern=NAME_PATTERN), AfterValidator(to_read)]
Name = Annotated[str, Field(min_length=1, max_length=200)]


class DocumentModel(BaseModel):
    """A piece of the document: never changed in place, and no field that is not known."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class Carried(DocumentModel):
    """A channel that an element carries along from a file of its own: an alpha, a depth, a mask."""

    name: Name = Field(title="Channel", description="What it becomes: A, or a name such as depth.Z.")
    file: str = Field(title="File", description="A file or a pattern, as of an element.")
    channel: str = Field(
        "", title="Taken from", description="Channel of that file; empty takes its grey, or its luma."
    )
    first: int = Field(0, title="First frame")
    last: int = Field(0, title="Last frame", description="Inclusive.")
    still: bool = Field(False, title="Still")
    offset: int = Field(
        0, title="Offset", description="Frames by which it starts later than the element's first frame."
    )
    beyond: Literal["hold", "blank", "error"] = Field(
        "error", title="Beyond its frames", description="What stands in where it has no frame."
    )
    inverted: bool = Field(False, title="Inverted")
    data: bool = Field(False, title="Data", description="Holds data, not colour or coverage.")


class Element(DocumentModel):
    """An imported file or sequence: where its pixels are and how they are read."""

    name: Name = Field("element", title="Name")
    file: str = Field(
        title="File",
        description="A file, or a pattern such as shot.####.exr; relative to the document.",
    )
    first: int = Field(0, title="First frame", description="First frame number of the file.")
    last: int = Field(0, title="Last frame", description="Last frame number, inclusive.")
    still: bool = Field(False, title="Still", description="One picture for all frames.")
    rate: Rate | None = Field(None, title="Frame rate", description="None takes the comp's.")
    reading: Reading = Field(default_factory=lambda: Reading(), title="Reading")
    encoding: Encoding = Field("srgb", title="Colour encoding")
    gaps: Literal["error", "hold", "black"] = Field(
        "error",
        title="Missing frames",
        description="error: an error where it is used; hold: the frame before; black: black and clear.",
    )
    only: tuple[str, ...] | None = Field(
        None, title="Only", description="The channels of the file that are used; None uses all."
    )
    joined: tuple[Carried, ...] = Field((), title="Carried along")
    kinds: dict[str, Literal["colour", "data"]] = Field(
        {}, title="Kinds", description="Channels that are data or colour against what their name says."
    )
