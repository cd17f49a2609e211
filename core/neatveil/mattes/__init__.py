"""Mattes: grey pictures that say where something is kept (1), removed (0), or kept in part.

A matte is a short list of parts, each a channel, a key, a shape, paint or named objects, put together in
order and refined.
"""

from .channel import ChannelPart
from .key import KeyPart
from .kinds import PARTS, PartUnion
from .matte import Matte
from .objects import ObjectPart
from .paint import PaintPart
from .part import Drawn, DrawnPart, Part, PicturePart, Rows
from .shape import ShapePart

__all__ = [
    "PARTS",
    "ChannelPart",
    "Drawn",
    "DrawnPart",
    "KeyPart",
    "Matte",
    "ObjectPart",
    "PaintPart",
    "Part",
    "PartUnion",
    "PicturePart",
    "Rows",
    "ShapePart",
]
