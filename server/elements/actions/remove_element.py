"""Removing an element that nothing uses."""

from __future__ import annotations

import shutil
from collections.abc import Sequence
from collections.abc import Set as AbstractSet

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from jobs.models import Job
from neatveil.errors import FileMissing
from neatveil.io import Pattern

from elements.models import Element
from elements.resolve import key
from elements.uses import USES


def users_of(row: Element) -> list[str]:
    """Names of the comps and of the elements that use it."""
    return _users(row, {row.pk})


def _users(row: Element, besides: AbstractSet[int]) -> list[str]:
    users = [name for use in USES for name in use.users(row)]
    others = Element.objects.filter(project_id=row.project_id).exclude(pk__in=besides)
    return users + [e.name for e in others if any(p["element"] == row.pk for p in e.parts)]


def unused_in(project_id: int) -> list[Element]:
    """Elements of a project that no comp and no other element uses."""
    rows = list(Element.objects.filter(project_id=project_id).select_related("library"))
    return _unused(project_id, rows)


def remove_elements(rows: Sequence[Element]) -> None:
    """Remove all of them, or none where one is used by what stays.

    Raises `Conflict` that names one that is used.
    """
    going = {row.pk for row in rows}
    for project_id in {row.project_id for row in rows}:
        own = [row for row in rows if row.project_id == project_id]
        free = {row.pk for row in _unused(project_id, own, going)}
        for row in own:
            if row.pk not in free:
                raise _in_use(row, _users(row, going))
    for row in rows:
        _remove(row)


def _unused(project_id: int, rows: Sequence[Element], going: AbstractSet[int] = frozenset()) -> list[Element]:
    """Those of a project's elements that nothing uses but, joined to it, what is ``going``."""
    used = {name for use in USES for name in use.used(project_id)}
    parts = (
        Element.objects.filter(project_id=project_id).exclude(pk__in=going).values_list("parts", flat=True)
    )
    joined = {part["element"] for own in parts for part in own}
    return [r for r in rows if r.pk not in joined and not {key(r), r.name} & used]


def check_unused(row: Element) -> None:
    """`Conflict` that names what uses it."""
    users = users_of(row)
    if users:
        raise _in_use(row, users)


def _in_use(row: Element, users: list[str]) -> Conflict:
    return Conflict(
        f"{row.name} is used in {', '.join(users)}.", advice="Take it out there first.", where=row.name
    )


def remove_element(row: Element) -> None:
    """Remove the row, and its files unless they lie in a library or another element uses them too.

    Raises `Conflict` as `check_unused`.
    """
    check_unused(row)
    _remove(row)


def _remove(row: Element) -> None:
    path = row.place
    shared = Element.objects.filter(file=row.file, library=row.library).exclude(pk=row.pk).exists()
    keep = shared or row.library_id is not None
    with transaction.atomic():
        announce(row.project_id, "elements", row.pk)
        Job.objects.filter(transcode__element=row).delete()  # with the transcodes that they serve
        row.delete()
    if keep:
        return
    files = [path]
    if Pattern.is_pattern(path):
        pattern = Pattern.parse(path)
        try:
            files = [pattern.path(f) for f in pattern.frames()]
        except FileMissing:
            files = []
    for file in files:
        file.unlink(missing_ok=True)
    if path.parent.is_dir() and not any(path.parent.iterdir()):
        shutil.rmtree(path.parent, ignore_errors=True)
