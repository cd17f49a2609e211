"""From rows to the core's elements."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from neatveil.alpha import Reading
from neatveil.comp import Carried, Comp, Layer
from neatveil.comp import Element as CoreElement
from neatveil.comp.layers import sources_named
from neatveil.errors import NeatVeilError, RateMissing
from neatveil.io import Facts

from .models import Element


class ElementNotReady(NeatVeilError):
    code = "element-not-ready"


class ElementReplaced(NeatVeilError):
    """The file under its name is another one now, and nobody has said yes to it."""

    code = "element-replaced"


def core_element(
    row: Element, changes: dict[str, Any] | None = None, others: Mapping[int, Element] | None = None
) -> CoreElement:
    """The core's element of a row; ``changes`` are a draft of reading, encoding, rate or gaps.

    ``others``: rows that it may carry channels of, where they are known already.

    Raises `ElementNotReady` while it arrives or when it was refused, `ElementReplaced`.
    """
    _check_ready(row)
    facts = Facts.model_validate(row.facts)
    given = {
        "reading": row.reading, "encoding": row.encoding, "rate": row.rate or facts.rate,
        "gaps": row.gaps, **(changes or {}),
    }  # fmt: skip
    return CoreElement(
        name=row.name, file=str(row.place), first=facts.first, last=facts.last,
        still=facts.kind == "still", rate=given["rate"] or None,
        reading=Reading.model_validate(given["reading"]), encoding=given["encoding"], gaps=given["gaps"],
        only=None if row.only is None else tuple(row.only), kinds=row.kinds,
        joined=tuple(_carried(part, others) for part in row.parts),
    )  # fmt: skip


def _check_ready(row: Element) -> None:
    if row.state != Element.State.READY:
        words = "is still being looked at" if row.state == Element.State.ARRIVING else "was refused"
        raise ElementNotReady(f"{row.name} {words}.", advice="See the Elements desk.", where=row.name)
    if row.replaced:
        raise ElementReplaced(
            f"{row.name} was replaced by another file under its name.",
            advice="Look at it on the Elements desk and say whether to use it.", where=row.name,
        )  # fmt: skip


def _carried(part: dict[str, Any], others: Mapping[int, Element] | None) -> Carried:
    number = part["element"]
    source = others.get(number) if others is not None else None
    if source is None:
        source = Element.objects.select_related("library").get(pk=number)
    _check_ready(source)
    facts = Facts.model_validate(source.facts)
    return Carried(
        name=part["name"], file=str(source.place), channel=part.get("channel", ""), first=facts.first,
        last=facts.last, still=facts.kind == "still", offset=part.get("offset", 0),
        beyond=part.get("ends", "error"), inverted=part.get("inverted", False), data=part.get("data", False),
    )  # fmt: skip


def elements_used(
    document: Comp,
    project_id: int,
    drafts: dict[str, dict[str, Any]] | None = None,
    unready: dict[str, NeatVeilError] | None = None,
) -> dict[str, CoreElement]:
    """The elements that a document's layers use, under their keys; ``drafts``, ``unready``: as of `resolved`.

    Raises `ElementNotReady`, or `RateMissing` for frames that give no rate and were given none.
    """
    rows = Element.objects.select_related("library").filter(
        project_id=project_id, pk__in=numbers_used(document)
    )
    return resolved(rows, drafts, unready)


def keys_used(document: Comp) -> list[str]:
    """What a document's layers, their steps and mattes name besides layers: keys of elements and of comps."""
    layers = document.all_layers
    keys = [x.element for x in layers if isinstance(x, Layer)]
    named = (n for x in layers for n in sources_named(x))
    return list(dict.fromkeys([*keys, *(n for n in named if not n.startswith("layer:"))]))


def numbers_used(document: Comp) -> list[int]:
    """Numbers of the elements that a document's layers, their steps and mattes name."""
    return [n for k in keys_used(document) if (n := number_of(k, "e")) is not None]


def number_of(key: str, letter: str) -> int | None:
    """The row's number in a document's key that begins with a letter; None for the key of something else."""
    digits = key[1:]
    return int(digits) if key[:1] == letter and digits.isdecimal() and len(digits) < 19 else None


def resolved(
    rows: Iterable[Element],
    drafts: dict[str, dict[str, Any]] | None = None,
    unready: dict[str, NeatVeilError] | None = None,
) -> dict[str, CoreElement]:
    """The core's elements of rows, under their keys; raises as `elements_used`.

    ``unready``: given why, by key, for elements that cannot be used; nothing is raised then.
    """
    found = {}
    for row in rows:
        try:
            found[key(row)] = _timed(row, core_element(row, (drafts or {}).get(key(row))))
        except NeatVeilError as error:
            if unready is None:
                raise
            unready[key(row)] = error
    return found


def _timed(row: Element, element: CoreElement) -> CoreElement:
    if element.rate is None and row.facts is not None and row.facts["kind"] != "still":
        raise RateMissing(
            f"{row.name} gives no frame rate.",
            advice="Set its rate on the Elements desk before it is used.", where=row.name,
        )  # fmt: skip
    return element


def key(row: Element) -> str:
    """The key of an element in comp documents."""
    return f"e{row.pk}"
