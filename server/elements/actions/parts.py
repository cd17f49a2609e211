"""Joining elements to one, carrying channels along, and parting one into colour and alpha."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Literal

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.alpha import Reading
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
    """Two elements that seem to belong together, and what does not agree between them."""

    colour: Element
    alpha: Element
    remarks: list[str]
    blocked: bool


def carry(
    row: Element, source: Element, person: Any, *, name: str, channel: str = "", offset: int = 0,
    ends: Ends = "error", inverted: bool = False, data: bool = False,
) -> Element:  # fmt: skip
    """``row`` carries a channel of ``source`` from now on, under a name; A makes it its alpha.

    Raises `ValueRefused` where the two cannot go together, `Conflict` for a circle.
    """
    name = name.strip()
    if not re.fullmatch(r"[A-Za-z0-9_][A-Za-z0-9_. -]{0,99}", name):
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
    part = {
        "element": source.pk, "name": name, "channel": channel, "offset": offset, "ends": ends,
        "inverted": inverted, "data": data,
    }  # fmt: skip
    kept = [p for p in row.parts if p["name"] != name]
    values: dict[str, Any] = {"parts": [*kept, part]}
    if name == "A" and row.reading.get("alpha") == "none":
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
    """Pairs of colour and alpha among elements, by their names: alike but for a word that says which."""
    colours: dict[str, Element] = {}
    alphas: dict[str, Element] = {}
    for row in rows:
        if row.state != Element.State.READY:
            continue
        stem, kind = _stem(row.name)
        (alphas if kind == "alpha" else colours).setdefault(stem, row)
    found = []
    joined = {p["element"] for row in rows for p in row.parts if p["name"] == "A"}
    for stem, alpha in alphas.items():
        colour = colours.get(stem)
        if alpha.pk in joined or colour is None or (colour.facts or {}).get("alpha"):
            continue
        if not any(p["name"] == "A" for p in colour.parts):
            remarks, blocked = reconcile(colour, alpha)
            found.append(Match(colour, alpha, remarks, blocked))
    return found


def _stem(name: str) -> tuple[str, Literal["alpha", "colour"]]:
    """A name without its frame number, ending and the word that tells colour from alpha.

    >>> _stem("kite_alpha.####.png"), _stem("kite_rgb.####.tif")
    (('kite', 'alpha'), ('kite', 'colour'))
    """
    bare = re.sub(r"\.[A-Za-z0-9]+$", "", name.lower())
    words = [w for w in re.split(r"[^a-z0-9]+", bare) if w and not w.isdecimal()]
    kind: Literal["alpha", "colour"] = "alpha" if any(w in _ALPHA_WORDS for w in words) else "colour"
    rest = [w for w in words if w not in (*_ALPHA_WORDS, *_COLOUR_WORDS)]
    return "_".join(rest), kind


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
