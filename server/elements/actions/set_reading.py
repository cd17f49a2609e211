"""Setting how elements are read and what they are made of, and taking the last change back."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from django.utils import timezone
from neatveil.alpha import Reading
from neatveil.channels.data_kinds import DATA_KINDS, OTHER_DATA
from neatveil.comp.starting import start_of
from neatveil.errors import unknown_name
from neatveil.io import Facts

from elements.models import Element, ReadingChange

FIELDS = ("reading", "encoding", "rate", "reading_set", "gaps", "parts", "kinds", "holds")


def set_reading(
    rows: list[Element], person: Any, *, reading: Reading | None = None,
    encoding: str | None = None, rate: str | None = None, gaps: str | None = None,
    kinds: dict[str, str] | None = None,
) -> list[Element]:  # fmt: skip
    """Change the given parts for all rows at once; every use of the elements follows."""
    given: dict[str, Any] = {"encoding": encoding, "rate": rate, "gaps": gaps, "kinds": kinds}
    if reading is not None:
        given |= {"reading": reading.model_dump(mode="json"), "reading_set": True}
    return change_all(rows, person, {k: v for k, v in given.items() if v is not None})


def change_all(rows: list[Element], person: Any, values: dict[str, Any]) -> list[Element]:
    """Set fields of rows in one go; each can be undone."""
    with transaction.atomic():
        locked = list(Element.objects.select_for_update().filter(pk__in=[r.pk for r in rows]).order_by("pk"))
        ReadingChange.objects.filter(element__in=locked).exclude(undone=None).delete()
        ReadingChange.objects.bulk_create(
            ReadingChange(element=row, before={f: getattr(row, f) for f in FIELDS}, person=person)
            for row in locked
        )
        for row in locked:
            for field, value in values.items():
                setattr(row, field, value)
        if values:
            Element.objects.filter(pk__in=[row.pk for row in locked]).update(**values)
        for project_id in {row.project_id for row in locked}:
            announce(project_id, "elements", locked[0].pk if len(locked) == 1 else 0)
    return locked


def set_holds(row: Element, person: Any, holds: str) -> Element:
    """Say that the element holds a kind of data, or colour with ""; it is read accordingly from now on.

    Raises `NameUnknown` for a kind that is not known, `Conflict` before it was looked at.
    """
    if row.facts is None:
        raise Conflict(f"{row.name} is not ready.", advice="Wait until it was looked at.", where=row.name)
    if holds not in {"", OTHER_DATA, *DATA_KINDS}:
        raise unknown_name("kind of data", holds, [*DATA_KINDS, OTHER_DATA])
    start = start_of(Facts.model_validate(row.facts), holds)
    values = {
        "holds": holds, "kinds": start.kinds, "encoding": start.encoding, "reading_set": start.certain,
        "reading": start.reading.model_dump(mode="json"),
    }  # fmt: skip
    return change_all([row], person, values)[0]


def undo_reading(row: Element) -> Element:
    """Take the last change of the element back; `Conflict` where there is none."""
    with transaction.atomic():
        row = Element.objects.select_for_update().get(pk=row.pk)
        change = row.changes.filter(undone=None).order_by("-pk").first()
        if change is None:
            raise Conflict(f"The reading of {row.name} was never changed.", where=row.name)
        return take_back(change, row)


def take_back(change: ReadingChange, row: Element) -> Element:
    """Give the element what it had before the change; the change is kept, to be done again."""
    now = {f: getattr(row, f) for f in FIELDS}
    if change.after is not None and any(now[f] != change.after[f] for f in change.after):
        raise Conflict(
            f"The reading of {row.name} was changed again since.",
            advice="Set it by hand, on the Elements desk.", where=row.name,
        )  # fmt: skip
    change.after, change.undone = now, timezone.now()
    change.save(update_fields=["after", "undone"])
    return _give(row, change.before)


def do_again(change: ReadingChange) -> Element:
    """Do a change that was taken back once more; inside a transaction."""
    row = Element.objects.select_for_update().get(pk=change.element_id)
    if any(getattr(row, f) != v for f, v in change.before.items()):
        raise Conflict(f"The reading of {row.name} was changed again since.", where=row.name)
    change.undone = None
    change.save(update_fields=["undone"])
    return _give(row, change.after or {})


def _give(row: Element, values: dict[str, Any]) -> Element:
    for field in FIELDS:
        if field in values:
            setattr(row, field, values[field])
    row.save(update_fields=FIELDS)
    announce(row.project_id, "elements", row.pk)
    return row
