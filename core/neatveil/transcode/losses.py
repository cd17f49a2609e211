"""What a format keeps of an element, channel by channel, and what it cannot: said before it is written."""

from __future__ import annotations

from ..codecs import Codec
from ..comp import Element
from ..io import Facts
from ..picture import RGBA

#: Samples that hold light above 1 and below 0.
_FLOATING = {"half", "float", "double"}


def channels_of(element: Element, facts: Facts) -> list[str]:
    """All channels of an element: those that are used of its file, and those that are carried along."""
    own = [c.name for c in facts.channels if element.only is None or c.name in element.only]
    carried = [p.name for p in element.joined]
    return [n for n in own if n not in carried] + carried


def extra_channels(element: Element, facts: Facts, codec: Codec) -> list[str]:
    """Channels besides colour and alpha that the format keeps."""
    further = [n for n in channels_of(element, facts) if n not in {*RGBA, "Y"}]
    return further if codec.kind == "frames" and codec.floating else []


def data_channels(element: Element, facts: Facts) -> set[str]:
    """Channels that hold data: by their names, their samples or what was said of them."""
    said = {c.name for c in facts.channels if c.data} | {p.name for p in element.joined if p.data}
    marked = {n for n, kind in element.kinds.items() if kind == "data"}
    return (said | marked) - {n for n, kind in element.kinds.items() if kind == "colour"}


def dropped(element: Element, facts: Facts, codec: Codec) -> list[str]:
    """Channels that the format cannot hold, in sentences: refused unless that is accepted."""
    found = []
    names = channels_of(element, facts)
    if "A" in names and not codec.alpha and element.reading.alpha != "none":
        found.append(f"{codec.title} cannot hold its alpha.")
    if "A" in names and codec.alpha_bits == 1 and element.reading.alpha != "none":
        found.append(f"{codec.title} knows no soft edge: a pixel is covered, or not.")
    lost = [n for n in names if n not in {*RGBA, "Y", *extra_channels(element, facts, codec)}]
    if lost:
        shown = ", ".join(lost[:6]) + (f" and {len(lost) - 6} more" if len(lost) > 6 else "")
        found.append(f"{codec.title} cannot hold {_count(len(lost))}: {shown}.")
    return found


def narrowed(element: Element, facts: Facts, codec: Codec) -> list[str]:
    """What the format holds in a narrower range or fewer bits, in sentences: said, not refused."""
    found = []
    names = channels_of(element, facts)
    floating = any(c.sample in _FLOATING for c in facts.channels if c.name in {*RGBA, "Y"} & {*names})
    if floating and not codec.floating:
        found.append(f"{codec.title} holds no values above 1 or below 0; they are cut off.")
    if data_channels(element, facts) & {*RGBA, "Y"} and codec.bits < 16:
        found.append(f"{codec.title} holds {codec.bits} bits a channel; its data needs 16 or more.")
    return found


def _count(number: int) -> str:
    return "the channel" if number == 1 else f"{number} of its channels"
