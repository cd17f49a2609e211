"""Every kind of part there is. A new one is a file of its own and a row here."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag

from .channel import ChannelPart
from .key import KeyPart
from .objects import ObjectPart
from .paint import PaintPart
from .part import Part
from .shape import ShapePart

PARTS: dict[str, type[Part]] = {
    "channel": ChannelPart, "key": KeyPart, "shape": ShapePart, "paint": PaintPart, "object": ObjectPart,
}  # fmt: skip


def _kind(value: Any) -> str:
    """A part without a kind is a channel: documents had no other once."""
    return str(value.get("kind", "channel") if isinstance(value, dict) else getattr(value, "kind", ""))


PartUnion = Annotated[
    Annotated[ChannelPart, Tag("channel")]
    | Annotated[KeyPart, Tag("key")]
    | Annotated[ShapePart, Tag("shape")]
    | Annotated[PaintPart, Tag("paint")]
    | Annotated[ObjectPart, Tag("object")],
    Discriminator(_kind),
]
