"""Pictures: named float32 planes with a data window and a display window."""

from .allocate import new_planes
from .box import Box
from .colour import rgb_planes, seen_planes
from .cut import cut, lay_over, plane_over, whole_frame
from .picture import (
    RGB,
    RGBA,
    Picture,
    Plane,
    PremultipliedPicture,
    StoredPicture,
    StraightPicture,
)
from .trim import trimmed, used_box

__all__ = [
    "RGB",
    "RGBA",
    "Box",
    "Picture",
    "Plane",
    "PremultipliedPicture",
    "StoredPicture",
    "StraightPicture",
    "cut",
    "lay_over",
    "new_planes",
    "plane_over",
    "rgb_planes",
    "seen_planes",
    "trimmed",
    "used_box",
    "whole_frame",
]
