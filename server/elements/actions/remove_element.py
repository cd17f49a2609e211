"""Removing an element that nothing uses."""

from __future__ import annotations

import shutil

from config.errors import Conflict
from config.events import announce
from django.conf import settings
from django.db import transaction
from neatveil.io import Pattern

from elements.models import Element
from elements.resolve import key


def remove_element(row: Element) -> None:
    """Remove the row and its files; `Conflict` that names the comps which use it."""
    from comps.models import Comp

    users = [
        c.name
        for c in Comp.objects.filter(project_id=row.project_id)
        if any(layer["element"] == key(row) for layer in c.document["layers"])
    ]
    if users:
        raise Conflict(
            f"{row.name} is used in {', '.join(users)}.",
            advice="Take its layers out there first.", where=row.name,
        )  # fmt: skip
    path = settings.MEDIA / row.file
    with transaction.atomic():
        announce(row.project_id, "elements", row.pk)
        row.delete()
    files = [path]
    if Pattern.is_pattern(path):
        pattern = Pattern.parse(path)
        files = [pattern.path(f) for f in pattern.frames()]
    for file in files:
        file.unlink(missing_ok=True)
    if path.parent.is_dir() and not any(path.parent.iterdir()):
        shutil.rmtree(path.parent, ignore_errors=True)
