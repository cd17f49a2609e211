"""Which frame of its element, or of its members, a layer shows at a frame of the comp."""

from __future__ import annotations

from fractions import Fraction
from math import floor

from .document import Comp
from .elements import Element
from .layers import Group, LayerBase


def layer_shows(comp: Comp, layer: LayerBase, frame: int) -> bool:
    """Whether a layer is switched on and within its in and out frames.

    Parameters
    ----------
    comp, layer : as of the document; the layer is one of the comp's.
    frame : of the comp, or of the group that holds the layer.

    Returns
    -------
    Yes or no.

    Examples
    --------
    >>> from neatveil.comp import Layer
    >>> layer_shows(Comp(first=1, last=10), Layer(id="a", name="a", element="a", first=4), 3)
    False
    """
    first = comp.first if layer.first is None else layer.first
    last = comp.last if layer.last is None else layer.last
    return layer.shown and first <= frame <= last


def element_frame(comp: Comp, layer: LayerBase, element: Element, frame: int) -> int | None:
    """The frame number in an element's file that a layer shows.

    The element's first frame stands at the comp's first frame plus the layer's offset. Rates are
    conformed by time and speed: the frame shown is the last one that has begun. Backwards, the element's last
    frame stands where its first would.

    Parameters
    ----------
    comp, layer, element : as of the document; the layer is one of the comp's, and shows the element.
    frame : of the comp, or of the group that holds the layer.

    Returns
    -------
    The number, or None where the layer ends blank.

    Examples
    --------
    >>> from neatveil.comp import Layer
    >>> comp = Comp(rate="25", first=1, last=10)
    >>> e = Element(file="a.####.png", first=101, last=200, rate="50")
    >>> element_frame(comp, Layer(id="a", name="a", element="a"), e, 3)
    105
    """
    if element.still:
        return element.first
    rates = Fraction(1)
    if element.rate is not None and element.rate != comp.rate:
        rates = element.rate / comp.rate
    index = frame - comp.first - layer.offset
    return _frame_at(layer, index, rates, element.first, element.last)


def group_frame(comp: Comp, group: Group, frame: int) -> int | None:
    """The frame at which a group's members are seen.

    Members are timed as in the comp; the group's own timing treats the comp's frame range as the frames of
    an element of the comp's rate. At rest it changes nothing, beyond that range too.

    Parameters
    ----------
    comp, group : as of the document; the group is one of the comp's layers.
    frame : of the comp, or of the group that holds this one.

    Returns
    -------
    The number, or None where the group ends blank.

    Examples
    --------
    >>> from neatveil.comp import Group
    >>> group_frame(Comp(first=1, last=10), Group(id="g", name="g", offset=2), 7)
    5
    """
    if group.offset == 0 and group.speed == 1 and not group.reverse:
        return frame
    index = frame - comp.first - group.offset
    return _frame_at(group, index, Fraction(1), comp.first, comp.last)


def _frame_at(layer: LayerBase, index: int, rates: Fraction, first: int, last: int) -> int | None:
    """``index``: comp frames since the first one shows; ``rates``: frames of its own in one of the comp's."""
    if layer.speed != 1 or rates != 1:
        index = floor(index * Fraction(layer.speed).limit_denominator(100000) * rates)
    count = last - first + 1
    if not 0 <= index < count:
        if layer.beyond == "blank":
            return None
        index = _beyond(index, count, layer.beyond)
    return last - index if layer.reverse else first + index


def _beyond(index: int, count: int, ends: str) -> int:
    if ends == "loop":
        return index % count
    if ends == "ping-pong" and count > 1:  # the turning points are seen once
        there = index % (2 * count - 2)
        return there if there < count else 2 * count - 2 - there
    return min(max(index, 0), count - 1)
