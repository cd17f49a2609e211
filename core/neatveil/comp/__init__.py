"""The open comp document."""

from .document import Comp
from .elements import Carried, Element
from .layers import AnyLayer, Group, GroupAlpha, Layer, LayerBase, Transform, sources_named
from .loading import VERSION, document_schema, is_newer, load_comp, parse_comp, read_json
from .rate import Rate
from .timing import element_frame, group_frame, layer_shows

__all__ = [
    "VERSION",
    "AnyLayer",
    "Carried",
    "Comp",
    "Element",
    "Group",
    "GroupAlpha",
    "Layer",
    "LayerBase",
    "Rate",
    "Transform",
    "document_schema",
    "element_frame",
    "group_frame",
    "is_newer",
    "layer_shows",
    "load_comp",
    "parse_comp",
    "read_json",
    "sources_named",
]
