"""The open comp document."""

from .document import Carried, Comp, Element, Layer, Transform, document_schema, load_comp
from .rate import Rate
from .timing import element_frame, layer_shows

__all__ = [
    "Carried",
    "Comp",
    "Element",
    "Layer",
    "Rate",
    "Transform",
    "document_schema",
    "element_frame",
    "layer_shows",
    "load_comp",
]
