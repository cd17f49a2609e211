"""Putting one element's files in another's place: every use follows, and a second time takes it back."""

from __future__ import annotations

from config.errors import Conflict
from config.events import announce
from django.db import transaction

from elements.models import Element

#: What belongs to the files, and goes with them.
_OF_FILES = ("file", "library_id", "folder", "facts", "state", "problem", "stamp", "replaced", "suggestion",
             "only", "parts", "kinds", "holds")  # fmt: skip


def take_over(old: Element, new: Element) -> Element:
    """``old`` keeps its name, reading and uses and gets the files of ``new``, which gets the old ones.

    Raises `Conflict` where one of them is still being looked at, is refused, or carries the other.
    """
    if old.pk == new.pk:
        raise Conflict(f"{old.name} cannot take its own place.", advice="Choose another element.")
    if old.project_id != new.project_id:
        raise Conflict(f"{old.name} and {new.name} are of different projects.", where=new.name)
    with transaction.atomic():
        rows = Element.objects.select_for_update().in_bulk([old.pk, new.pk])
        one, other = rows[old.pk], rows[new.pk]
        for row in (one, other):
            if row.state != Element.State.READY:
                raise Conflict(f"{row.name} is not ready.", advice="Wait until it is.", where=row.name)
        if any(p["element"] in {one.pk, other.pk} for p in [*one.parts, *other.parts]):
            raise Conflict(f"{one.name} and {other.name} carry channels of each other.", where=one.name)
        for field in _OF_FILES:
            mine, theirs = getattr(one, field), getattr(other, field)
            setattr(one, field, theirs)
            setattr(other, field, mine)
        for row in (one, other):
            row.save(update_fields=[f.removesuffix("_id") for f in _OF_FILES])
            announce(row.project_id, "elements", row.pk)
    return one
