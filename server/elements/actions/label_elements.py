"""Gathering elements under a word."""

from __future__ import annotations

from collections.abc import Sequence

from config.events import announce
from django.db import transaction
from neatveil.errors import ValueRefused

from elements.models import Element

#: Characters, as the column has.
LONGEST = 60


def label_elements(rows: Sequence[Element], label: str) -> None:
    """Give all of them one label, or none; `ValueRefused` for one that is too long."""
    label = " ".join(label.split())
    if len(label) > LONGEST:
        raise ValueRefused(f"A label has at most {LONGEST} characters.", where="label")
    with transaction.atomic():
        Element.objects.filter(pk__in=[row.pk for row in rows]).update(label=label)
        for row in rows:
            announce(row.project_id, "elements", row.pk)
