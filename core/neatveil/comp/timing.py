"""Which frame of an element a layer shows at a frame of the comp."""

from __future__ import annotations

from math import floor

from .document import Comp, Element, Layer


def layer_shows(comp: Comp, layer: Layer, frame: int) -> bool:
    """Whether the layer is switched on and within its in and out frames."""
    first = comp.first if layer.first is None else layer.first
    last = comp.last if layer.last is None else layer.last
    return layer.shown and first <= frame <= last


def element_frame(comp: Comp, layer: Layer, element: Element, frame: int) -> int | None:
    """Frame number in the element's file, or None where the layer ends blank.

    The element's first frame stands at the comp's first frame plus the layer's offset. Rates are
    conformed by time: the frame shown is the last one that has begun.

    >>> comp = Comp(rate="25", first=1, last=10)
    >>> e = Element(file="a.####.png", first=101, last=200, rate="50")
    >>> element_frame(comp, Layer(id="a", name="a", element="a"), e, 3)
    105
    """
    if element.still:
        return element.first
    index = frame - comp.first - layer.offset
    if element.rate is not None and element.rate != comp.rate:
        index = floor(index * element.rate / comp.rate)
    count = element.last - element.first + 1
    if not 0 <= index < count:
        if layer.ends == "blank":
            return None
        index = index % count if layer.ends == "loop" else min(max(index, 0), count - 1)
    return element.first + index
