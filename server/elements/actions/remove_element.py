"""Removing an element that nothing uses."""

from __future__ import annotations

import shutil

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from jobs.models import Job
from neatveil.errors import FileMissing
from neatveil.io import Pattern

from elements.models import Element
from elements.uses import USES


def users_of(row: Element) -> list[str]:
    """Names of the comps and of the elements that use it."""
    users = [name for use in USES for name in use.users(row)]
    others = Element.objects.filter(project_id=row.project_id).exclude(pk=row.pk)
    return users + [e.name for e in others if any(p["element"] == row.pk for p in e.parts)]


def check_unused(row: Element) -> None:
    """`Conflict` that names what uses it."""
    users = users_of(row)
    if users:
        raise Conflict(
            f"{row.name} is used in {', '.join(users)}.",
            advice="Take it out there first.", where=row.name,
        )  # fmt: skip


def remove_element(row: Element) -> None:
    """Remove the row, and its files unless they lie in a library or another element uses them too.

    Raises `Conflict` as `check_unused`.
    """
    check_unused(row)
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
