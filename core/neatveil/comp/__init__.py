"""The open comp document."""

from .cameras import SceneCamera, SceneLight
from .cards import Card
from .document import Comp
from .elements import Carried, Element
from .layers import Group, GroupAlpha, Layer, MadeLayer, Transform
from .loading import document_schema, load_comp
from .rate import Rate
from .timing import (
    FramesShown,
    camera_frame,
    element_frame,
    element_frames,
    group_frame,
    group_frames,
    layer_shows,
)

__all__ = [
    "Card",
    "Carried",
    "Comp",
    "Element",
    "FramesShown",
    "Group",
    "GroupAlpha",
    "Layer",
    "MadeLayer",
    "Rate",
    "SceneCamera",
    "SceneLight",
    "Transform",
    "camera_frame",
    "document_schema",
    "element_frame",
    "element_frames",
    "group_frame",
    "group_frames",
    "layer_shows",
    "load_comp",
]
