"""Which frame of an element a layer shows at a frame of the comp."""

from __future__ import annotations

from fractions import Fraction
from math import floor

from .document import Comp, Element, Layer


def layer_shows(comp: Comp, layer: Layer, frame: int) -> bool:
    """Whether a layer is switched on and within its in and out frames.

    Parameters
    ----------
    comp, layer : as of the document; the layer is one of the comp's.
    frame : of the comp.

    Returns
    -------
    Yes or no.

    Examples
    --------
    >>> layer_shows(Comp(first=1, last=10), Layer(id="a", name="a", element="a", first=4), 3)
    False
    """
    first = comp.first if layer.first is None else layer.first
    last = comp.last if layer.last is None else layer.last
    return layer.shown and first <= frame <= last


def element_frame(comp: Comp, layer: Layer, element: Element, frame: int) -> int | None:
    """The frame number in an element's file that a layer shows.

    The element's first frame stands at the comp's first frame plus the layer's offset. Rates are
    conformed by time and speed: the frame shown is the last one that has begun. Backwards, the element's last
    frame stands where its first would.

    Parameters
    ----------
    comp, layer, element : as of the document; the layer is one of the comp's, and shows the element.
    frame : of the comp.

    Returns
    -------
    The number, or None where the layer ends blank.

    Examples
    --------
    >>> comp = Comp(rate="25", first=1, last=10)
    >>> e = Element(file="a.####.png", first=101, last=200, rate="50")
    >>> element_frame(comp, Layer(id="a", name="a", element="a"), e, 3)
    105
    """
    if element.still:
        return element.first
    index = frame - comp.first - layer.offset
    if layer.speed != 1 or (element.rate is not None and element.rate != comp.rate):
        pace = Fraction(layer.speed).limit_denominator(100000)
        index = floor(index * pace * ((element.rate or comp.rate) / comp.rate))
    count = element.last - element.first + 1
    if not 0 <= index < count:
        if layer.beyond == "blank":
            return None
        index = _beyond(index, count, layer.beyond)
    return element.last - index if layer.reverse else element.first + index


def _beyond(index: int, count: int, ends: str) -> int:
    if ends == "loop":
        return index % count
    if ends == "ping-pong" and count > 1:  # the turning points are seen once
        there = index % (2 * count - 2)
        return there if there < count else 2 * count - 2 - there
    return min(max(index, 0), count - 1)
