"""Joining elements to one, carrying channels along, and parting one into colour and alpha."""

from __future__ import annotations

import re
from collections.abc import Container, Sequence
from dataclasses import asdict, dataclass
from fractions import Fraction
from typing import Any, Literal

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.alpha import Reading
from neatveil.channels.data_kinds import carried_names, parted_name, versions_of, words_of
from neatveil.comp.rate import parse_rate
from neatveil.errors import ValueRefused
from neatveil.io import Facts

from elements.models import Element

from .set_reading import change_all

Ends = Literal["hold", "blank", "error"]

#: Words in a file's name that say that it holds the alpha; common practice, no source.
_ALPHA_WORDS = ("alpha", "matte", "mask", "a", "key", "holdout", "luma")
_COLOUR_WORDS = ("rgb", "colour", "color", "fill", "beauty", "plate", "col")


@dataclass(frozen=True, slots=True)
class Match:
    """Two elements that seem to belong together, and what does not agree between them.

    ``holds``: alpha, or the kind of data; ``channels``: pairs of the name that ``element`` would carry it by
    and the channel of ``source``, "" for its grey.
    """

    element: Element
    source: Element
    holds: str
    channels: list[tuple[str, str]]
    remarks: list[str]
    blocked: bool


@dataclass(frozen=True, slots=True)
class Carrying:
    """How a channel is carried along; ``name``: what it becomes."""

    name: str
    channel: str = ""
    offset: int = 0
    ends: Ends = "error"
    inverted: bool = False
    data: bool = False


def carry(row: Element, source: Element, person: Any, parts: Sequence[Carrying]) -> Element:
    """``row`` carries channels of ``source`` from now on; A makes one its alpha.

    Raises `ValueRefused` where the two cannot go together, `Conflict` for a circle.
    """
    for part in parts:
        if not re.fullmatch(r"[A-Za-z0-9_][A-Za-z0-9_. -]{0,99}", part.name.strip()):
            raise ValueRefused(
                "A channel's name has letters, digits, dots and dashes.",
                advice="Such as A or depth.Z.",
                where="name",
            )
    if source.pk == row.pk:
        raise Conflict(f"{row.name} cannot carry a channel of itself.", where=row.name)
    if source.parts:
        raise Conflict(
            f"{source.name} carries channels of others itself.",
            advice="Take them from there.",
            where=source.name,
        )
    remarks, blocked = reconcile(row, source)
    if blocked:
        raise ValueRefused(" ".join(remarks), advice="Import both in one size.", where=source.name)
    new = [{"element": source.pk, **asdict(p), "name": p.name.strip()} for p in parts]
    names = {p["name"] for p in new}
    values: dict[str, Any] = {"parts": [*(p for p in row.parts if p["name"] not in names), *new]}
    if "A" in names and row.reading.get("alpha") == "none":
        # what had no alpha was read as such: the alpha that is joined is meant to count
        values["reading"] = Reading(alpha="straight").model_dump(mode="json")
    return change_all([row], person, values)[0]


def drop_part(row: Element, person: Any, name: str) -> Element:
    """Carry a channel no longer."""
    kept = [p for p in row.parts if p["name"] != name]
    if len(kept) == len(row.parts):
        raise Conflict(f"{row.name} carries no channel {name}.", where=row.name)
    values: dict[str, Any] = {"parts": kept}
    if name == "A" and not (row.facts or {}).get("alpha"):
        values["reading"] = Reading(alpha="none").model_dump(mode="json")
    return change_all([row], person, values)[0]


def reconcile(row: Element, source: Element) -> tuple[list[str], bool]:
    """What does not agree between an element and one that it is to carry, and whether that forbids it."""
    if row.facts is None or source.facts is None:
        raise Conflict("One of them is not ready.", advice="Wait until both are looked at.")
    one, other = Facts.model_validate(row.facts), Facts.model_validate(source.facts)
    remarks = []
    blocked = (one.width, one.height) != (other.width, other.height)
    if blocked:
        remarks.append(
            f"{row.name} is {one.width} x {one.height}, {source.name} {other.width} x {other.height}."
        )
    if other.kind != "still" and one.kind != "still":
        a, b = one.last - one.first + 1, other.last - other.first + 1
        if a != b:
            remarks.append(f"{row.name} has {a} frames, {source.name} {b}.")
        if one.first != other.first and one.kind == other.kind == "sequence":
            remarks.append(
                f"They begin at {one.first} and {other.first}; the first frames are laid on each other."
            )
        rates = [_rate(r, f) for r, f in ((row, one), (source, other))]
        if None not in rates and rates[0] != rates[1]:
            remarks.append(f"They run at {rates[0]} and {rates[1]}; frames are matched one by one.")
    if other.kind == "still" and one.kind != "still":
        remarks.append(f"{source.name} is one still: it serves for every frame.")
    return remarks, blocked


def _rate(row: Element, facts: Facts) -> Fraction | None:
    text = row.rate or facts.rate
    return parse_rate(text) if text else None


def matches(rows: Sequence[Element]) -> list[Match]:
    """Elements of one picture, by their names: alike but for the word that says what a file holds.

    Colour takes the alpha, and every kind of data that it has not yet.
    """
    ready = [r for r in rows if r.state == Element.State.READY]
    colours: dict[str, Element] = {}
    for row in ready:
        stem, kind = _stem(row)
        if kind == "colour":
            colours.setdefault(stem, row)
    found = []
    for source in ready:
        stem, kind = _stem(source)
        colour = colours.get(stem)
        if kind == "colour" or colour is None:
            continue
        channels = _joined_as(kind, source)
        there = {p["name"] for p in colour.parts} | {c["name"] for c in (colour.facts or {})["channels"]}
        if channels and not there & {name for name, _ in channels}:
            remarks, blocked = reconcile(colour, source)
            found.append(Match(colour, source, kind, channels, remarks, blocked))
    return _each_once(found, {p["element"] for row in ready for p in row.parts})


def _each_once(found: Sequence[Match], joined: Container[int]) -> list[Match]:
    """Not what is joined already, and one source for each kind."""
    once: dict[tuple[int, str], Match] = {}
    for match in found:
        if match.source.pk not in joined:
            once.setdefault((match.element.pk, match.holds), match)
    return list(once.values())


def _joined_as(kind: str, source: Element) -> list[tuple[str, str]]:
    if kind == "alpha":
        return [("A", "")]
    return carried_names(kind, [c["name"] for c in (source.facts or {})["channels"]])


def _stem(row: Element) -> tuple[str, str]:
    """A name without its frame number, ending and the word that says what it holds: colour, alpha or data."""
    version = versions_of(row.name)
    if row.holds:
        words, _ = parted_name(row.name)
        return "_".join([*(w for w in words if w not in _COLOUR_WORDS), *version]), row.holds
    words = tuple(words_of(row.name))
    kind = "alpha" if any(w in _ALPHA_WORDS for w in words) else "colour"
    return "_".join([*(w for w in words if w not in (*_ALPHA_WORDS, *_COLOUR_WORDS)), *version]), kind


def part_in_two(row: Element) -> tuple[Element, Element]:
    """Two elements of one: its colour, and its alpha as a grey picture. The element itself stays.

    Raises `Conflict` where it has no alpha of its own.
    """
    if row.state != Element.State.READY or row.facts is None or not row.facts.get("alpha"):
        raise Conflict(f"{row.name} has no alpha to be parted from.", where=row.name)
    shared = {
        "project_id": row.project_id, "file": row.file, "library_id": row.library_id, "folder": row.folder,
        "state": row.state, "encoding": row.encoding, "rate": row.rate, "gaps": row.gaps, "stamp": row.stamp,
        "reading_set": True, "reading": Reading(alpha="none").model_dump(mode="json"),
    }  # fmt: skip
    facts = {**row.facts, "alpha": False, "alpha_use": "none", "alpha_claim": None, "alpha_claim_by": ""}
    channels = facts["channels"]
    colour_names = [c["name"] for c in channels if c["name"] in {"R", "G", "B", "Y"}]
    alpha_fact = next(c for c in channels if c["name"] == "A")
    with transaction.atomic():
        colour = Element.objects.create(
            **shared, name=f"{row.name} colour"[:300], only=colour_names,
            facts={**facts, "channels": [c for c in channels if c["name"] in colour_names]},
        )  # fmt: skip
        alpha = Element.objects.create(
            **{**shared, "encoding": "linear"}, name=f"{row.name} alpha"[:300], only=[],
            parts=[{"element": row.pk, "name": "Y", "channel": "A", "ends": "hold", "data": True}],
            facts={**facts, "channels": [{**alpha_fact, "name": "Y"}]},
        )  # fmt: skip
        announce(row.project_id, "elements", row.pk)
    return colour, alpha
