"""Finding an element's facts, and the reading it starts with."""

from __future__ import annotations

from fnmatch import fnmatch
from typing import Any

from config.errors import NotThere
from config.events import announce
from django.db import transaction
from neatveil.comp.starting import start_of
from neatveil.errors import NeatVeilError, describe
from neatveil.io import Decoder, Facts

from elements.models import Element, ReadingRule
from elements.stamps import stamp_of

from .configurations import space_of
from .queue_look import queue_closer_look


def look_at(element_id: int, decoder: Decoder) -> Element:
    """Probe the files and set facts, or why the element is refused; what takes longer follows by a job."""
    row = Element.objects.select_related("library").filter(pk=element_id).first()
    if row is None:
        raise NotThere("This element was removed.")
    learn(row, decoder)
    with transaction.atomic():
        row.save(
            update_fields=[
                "state", "facts", "problem", "reading", "encoding", "stamp", "suggestion", "reading_set",
                "holds",
                "kinds",
            ]
        )  # fmt: skip
        if row.state == Element.State.READY:
            queue_closer_look(row.pk)
        announce(row.project_id, "elements", row.pk)
    return row


def learn(row: Element, decoder: Decoder) -> None:
    """Find the facts and the reading to start with, or why it is refused; the row is not saved."""
    stamp = stamp_of(row.place)
    try:
        facts = decoder.probe(str(row.place))
    except NeatVeilError as error:
        row.state, row.problem = Element.State.REFUSED, describe(error)
        return
    row.state, row.facts, row.problem = Element.State.READY, facts.model_dump(mode="json"), None
    row.stamp = stamp
    if not row.reading_set:
        _start_reading(row, facts)


def _start_reading(row: Element, facts: Facts) -> None:
    start = start_of(facts)
    row.reading, row.encoding = start.reading.model_dump(mode="json"), start.encoding
    row.holds, row.kinds, row.reading_set = facts.holds, start.kinds, start.certain
    if facts.holds:
        return  # rules say how colour is read
    rule = rule_for(row, facts)
    if rule is not None and facts.alpha:
        row.reading, row.reading_set = rule.reading, True
    place = f"{row.folder}/{row.name}" if row.folder else row.name
    told = rule.encoding if rule is not None else ""
    row.encoding = told or space_of(row.project, place) or row.encoding


def rule_for(row: Element, facts: Facts) -> ReadingRule | None:
    """The project's first rule that fits the element."""
    rules = ReadingRule.objects.filter(project_id=row.project_id)
    return next((r for r in rules if fits(r, row, facts)), None)


def fits(rule: ReadingRule, row: Element, facts: Facts) -> bool:
    """Whether every part of the rule that is filled in holds."""
    checks: list[tuple[Any, bool]] = [
        (rule.format, facts.format.lower() == rule.format.lower()),
        (rule.codec, facts.codec.lower() == rule.codec.lower()),
        (rule.folder, rule.folder.lower() in row.folder.lower()),
        (rule.pattern, fnmatch(row.name.lower(), rule.pattern.lower())),
    ]
    return all(holds for given, holds in checks if given)
