"""Setting how elements are read and what they are made of, and taking the last change back."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.alpha import Reading

from elements.models import Element, ReadingChange

FIELDS = ("reading", "encoding", "rate", "reading_set", "gaps", "parts", "kinds")


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


def undo_reading(row: Element) -> Element:
    """Take the last change of the element back; `Conflict` where there is none."""
    with transaction.atomic():
        row = Element.objects.select_for_update().get(pk=row.pk)
        change = row.changes.order_by("-pk").first()
        if change is None:
            raise Conflict(f"The reading of {row.name} was never changed.", where=row.name)
        for field in FIELDS:
            if field in change.before:
                setattr(row, field, change.before[field])
        change.delete()
        row.save(update_fields=FIELDS)
        announce(row.project_id, "elements", row.pk)
    return row
