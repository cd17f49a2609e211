"""Which frames of its element, or of its members, a layer shows at a frame of the comp."""

from __future__ import annotations

from fractions import Fraction
from math import floor
from typing import NamedTuple

from .cameras import SceneCamera
from .cards import Card
from .document import Comp
from .elements import Element
from .layers import Group, LayerBase

#: Positions are exact fractions; numbers of the document, which are floats, count to these parts.
_SPEED_PARTS, _FRAME_PARTS = 100000, 1000


class FramesShown(NamedTuple):
    """A frame, and the share of the one that comes after it in the layer's order; 0 shows the first alone."""

    number: int
    after: int
    share: float

    @property
    def nearest(self) -> int:
        """The one with the larger share."""
        return self.number if self.share < 0.5 else self.after


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


def element_frames(comp: Comp, layer: LayerBase, element: Element | Comp, frame: int) -> FramesShown | None:
    """The frames in an element's file, or of another comp, that a layer shows.

    The element's first frame stands at the comp's first frame plus the layer's offset. Rates are
    conformed by time and speed; a time between two frames shows the one that has begun, the nearest, or both
    blended, as the layer says. Backwards, the element's last frame stands where its first would.

    Parameters
    ----------
    comp, layer, element : as of the document; the layer is one of the comp's as it is at the frame, and shows
        the element.
    frame : of the comp, or of the group that holds the layer.

    Returns
    -------
    The frames, or None where the layer ends blank.

    Examples
    --------
    >>> from neatveil.comp import Layer
    >>> comp = Comp(rate="25", first=1, last=10)
    >>> e = Element(file="a.####.png", first=101, last=200, rate="24")
    >>> element_frames(comp, Layer(id="a", name="a", element="a", between="blend"), e, 3)
    FramesShown(number=102, after=103, share=0.92)
    """
    if isinstance(element, Element) and element.still:
        return FramesShown(element.first, element.first, 0.0)
    rates = Fraction(1)
    if element.rate is not None and element.rate != comp.rate:
        rates = element.rate / comp.rate
    return _frames_at(comp, layer, frame, rates, element.first, element.last)


def element_frame(comp: Comp, layer: LayerBase, element: Element, frame: int) -> int | None:
    """The frame number in an element's file that a layer shows; of two that are blended the nearest.

    Parameters
    ----------
    comp, layer, element, frame : as of `element_frames`.

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
    found = element_frames(comp, layer, element, frame)
    return None if found is None else found.nearest


def camera_frame(comp: Comp, card: Card, camera: SceneCamera) -> int:
    """The frame of its own at which a camera sees a card.

    Its first frame stands at the comp's first one plus the card's offset; another rate is conformed by time,
    to the frame that has begun.

    Parameters
    ----------
    comp, card, camera : as of the document; the card as it is at a frame of the comp, or of a group.

    Returns
    -------
    The number; beyond the camera's frames the first or the last.

    Examples
    --------
    >>> from neatveil.comp import Card, SceneCamera
    >>> places = [[[1, 0, 0, n], [0, 1, 0, 0], [0, 0, 1, 4]] for n in range(4)]
    >>> row = {"name": "v", "width": 8, "height": 8, "rate": "50", "first": 11, "yfov": [0.8]}
    >>> camera_frame(Comp(rate="25", first=1, last=10), Card().at(2), SceneCamera(places=places, **row))
    13
    """
    place = (Fraction(card.frame).limit_denominator(_FRAME_PARTS) - comp.first - card.offset) * (
        camera.rate / comp.rate
    )
    return min(max(camera.first + floor(place), camera.first), camera.last)


def group_frames(comp: Comp, group: Group, frame: int) -> FramesShown | None:
    """The frames at which a group's members are seen.

    Members are timed as in the comp; the group's own timing treats the comp's frame range as the frames of
    an element of the comp's rate. At rest it changes nothing, beyond that range too.

    Parameters
    ----------
    comp, group : as of the document; the group is one of the comp's layers as it is at the frame.
    frame : of the comp, or of the group that holds this one.

    Returns
    -------
    The frames, or None where the group ends blank.

    Examples
    --------
    >>> from neatveil.comp import Group
    >>> group_frames(Comp(first=1, last=10), Group(id="g", name="g", offset=2), 7)
    FramesShown(number=5, after=5, share=0.0)
    """
    if (group.offset, group.speed, group.reverse, group.own_frame) == (0, 1, False, None):
        return FramesShown(frame, frame, 0.0)
    return _frames_at(comp, group, frame, Fraction(1), comp.first, comp.last)


def group_frame(comp: Comp, group: Group, frame: int) -> int | None:
    """The frame at which a group's members are seen; of two that are blended the nearest.

    Parameters
    ----------
    comp, group, frame : as of `group_frames`.

    Returns
    -------
    The number, or None where the group ends blank.

    Examples
    --------
    >>> from neatveil.comp import Group
    >>> group_frame(Comp(first=1, last=10), Group(id="g", name="g", offset=2), 7)
    5
    """
    found = group_frames(comp, group, frame)
    return None if found is None else found.nearest


def _frames_at(
    comp: Comp, layer: LayerBase, frame: int, rates: Fraction, first: int, last: int
) -> FramesShown | None:
    """``rates``: frames of the layer's own in one of the comp's; ``first``, ``last``: its own."""
    if layer.own_frame is None:
        pace = rates if layer.speed == 1 else Fraction(layer.speed).limit_denominator(_SPEED_PARTS) * rates
        place = (frame - comp.first - layer.offset) * pace
    else:
        place = Fraction(layer.own_frame).limit_denominator(_FRAME_PARTS) - first - layer.offset * rates
    index, count = floor(place), last - first + 1
    if layer.beyond == "blank" and not 0 <= index < count:
        return None
    share = 0.0
    if layer.between == "nearest":
        index = floor(place + Fraction(1, 2))
    elif layer.between == "blend":
        share = float(place - index)

    def number(index: int) -> int:
        index = _beyond(index, count, layer.beyond)
        return last - index if layer.reverse else first + index

    shown, after = number(index), number(index + 1 if share else index)
    return FramesShown(shown, after, share if after != shown else 0.0)


def _beyond(index: int, count: int, ends: str) -> int:
    if ends == "loop":
        return index % count
    if ends == "ping-pong" and count > 1:  # the turning points are seen once
        there = index % (2 * count - 2)
        return there if there < count else 2 * count - 2 - there
    return min(max(index, 0), count - 1)
