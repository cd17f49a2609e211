"""How an element is read before anybody has said anything: as its format, its header or its name say."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..alpha import Reading
from ..io import Facts
from .elements import Element

Kinds = dict[str, Literal["colour", "data"]]


@dataclass(frozen=True, slots=True)
class Start:
    """Reading, colour encoding and what is data; ``certain``: nobody has to be asked."""

    reading: Reading
    encoding: str
    kinds: Kinds
    certain: bool


def start_of(facts: Facts, holds: str | None = None) -> Start:
    """What an element begins with.

    Data is taken as it stands: all of it but the alpha, never decoded, never multiplied. ``holds``: a kind of
    data that a person gave, "" for colour; None goes by the facts. A movie says nothing of its alpha: then
    straight stands in until somebody confirms it.
    """
    kind = facts.holds if holds is None else holds
    own = [c.name for c in facts.channels if c.name != "A"]
    if kind:
        data = Reading(alpha="straight" if facts.alpha else "none")
        return Start(data, "linear", dict.fromkeys(own, "data"), certain=True)
    reading = Reading(alpha=(facts.alpha_claim or "straight") if facts.alpha else "none")
    against: Kinds = dict.fromkeys(own, "colour") if facts.holds else {}
    return Start(reading, facts.encoding, against, certain=False)


def element_of_facts(facts: Facts, file: str) -> Element:
    """A file as an element that is read as it says of itself."""
    start = start_of(facts)
    return Element(
        name=facts.name, file=file, first=facts.first, last=facts.last, still=facts.kind == "still",
        encoding=start.encoding, reading=start.reading, kinds=start.kinds,
    )  # fmt: skip
