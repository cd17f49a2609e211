"""From rows to the core's elements."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.conf import settings
from neatveil.alpha import Reading
from neatveil.comp import Comp
from neatveil.comp import Element as CoreElement
from neatveil.errors import NeatVeilError, RateMissing
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


def elements_used(document: Comp, project_id: int) -> dict[str, CoreElement]:
    """The elements that a document's layers use, under their keys.

    Raises `ElementNotReady`, or `RateMissing` for a movie that gives no rate and was given none.
    """
    return resolved(Element.objects.filter(project_id=project_id, pk__in=numbers_used(document)))


def numbers_used(document: Comp) -> list[int]:
    """Numbers of the elements that a document's layers name."""
    return [int(x.element[1:]) for x in document.layers if x.element[1:].isdecimal()]


def resolved(
    rows: Iterable[Element], drafts: dict[str, dict[str, Any]] | None = None
) -> dict[str, CoreElement]:
    """The core's elements of rows, under their keys; raises as `elements_used`."""
    found = {}
    for row in rows:
        element = core_element(row, (drafts or {}).get(key(row)))
        if element.rate is None and row.facts["kind"] == "movie":
            raise RateMissing(
                f"{row.name} gives no frame rate.",
                advice="Set its rate on the Elements desk before it is used.", where=row.name,
            )  # fmt: skip
        found[key(row)] = element
    return found


def key(row: Element) -> str:
    """The key of an element in comp documents."""
    return f"e{row.pk}"
