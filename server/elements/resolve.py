"""From rows to the core's elements."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from neatveil.alpha import Reading
from neatveil.comp import Element as CoreElement
from neatveil.errors import NeatVeilError
from neatveil.io import Facts

from .models import Element


class ElementNotReady(NeatVeilError):
    code = "element-not-ready"


def core_element(row: Element, changes: dict[str, Any] | None = None) -> CoreElement:
    """The core's element of a row; ``changes`` are a draft of reading, encoding or rate.

    Raises `ElementNotReady` while it arrives or when it was refused.
    """
    if row.state != Element.State.READY:
        words = "is still being looked at" if row.state == Element.State.ARRIVING else "was refused"
        raise ElementNotReady(f"{row.name} {words}.", advice="See the Elements desk.", where=row.name)
    facts = Facts.model_validate(row.facts)
    given = {
        "reading": row.reading,
        "encoding": row.encoding,
        "rate": row.rate or facts.rate,
        **(changes or {}),
    }
    return CoreElement(
        name=row.name, file=str(settings.MEDIA / row.file), first=facts.first, last=facts.last,
        still=facts.kind == "still", rate=given["rate"] or None,
        reading=Reading.model_validate(given["reading"]), encoding=given["encoding"],
    )  # fmt: skip


def elements_of(project_id: int, drafts: dict[str, dict[str, Any]] | None = None) -> dict[str, CoreElement]:
    """Every element of a project that is ready, under the key that layers use."""
    rows = Element.objects.filter(project_id=project_id, state=Element.State.READY)
    drafts = drafts or {}
    return {key(row): core_element(row, drafts.get(key(row))) for row in rows}


def key(row: Element) -> str:
    """The key of an element in comp documents."""
    return f"e{row.pk}"
