"""Comps that are layers of comps: found for a document, and kept from holding each other in a circle."""

from __future__ import annotations

from typing import Any

from elements.resolve import elements_used, keys_used, number_of
from neatveil.comp import Comp as Document
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NeatVeilError

from .cameras import cameras_used
from .models import Comp


def comp_key(number: int) -> str:
    """The key of a comp in the documents of others."""
    return f"c{number}"


def comp_number(key: str) -> int | None:
    """The number of the comp that a key stands for; None for the key of an element."""
    return number_of(key, "c")


def comps_named(document: Document) -> list[int]:
    """Numbers of the comps that a document's layers, their steps and mattes name."""
    return [n for k in keys_used(document) if (n := comp_number(k)) is not None]


def with_all_sources(document: Document, project_id: int) -> Document:
    """The document with what it uses; raises where an element or a comp cannot be used."""
    return _filled(document, project_id, [], None, None)


def inner_comps(
    document: Document,
    project_id: int,
    own: int | None,
    unready: dict[str, NeatVeilError],
    drafts: dict[str, dict[str, Any]] | None = None,
) -> dict[str, Document]:
    """The comps that a document uses, by key; ``unready`` is given why some cannot be used.

    ``own``: the number of the document's comp; ``drafts``: readings, encodings or rates by element.
    """
    path = [] if own is None else [(own, document.name)]
    return _inner(document, project_id, path, unready, drafts)


def refuse_circles(document: Document, project_id: int, own: int | None, *, gone_too: bool = True) -> None:
    """`DocumentRefused` where a comp that the document shows leads back to its own.

    ``gone_too``: refused as well where a layer shows a comp that the project has not.
    """

    def follow(named: list[int], path: _Path) -> None:
        rows = _rows(project_id, named)
        for number in named:
            row = rows.get(number)
            if row is not None:
                within = _onward(row, path)
                follow(comps_named(parse_comp(row.document, row.name, lenient=True)), within)
            elif gone_too:
                raise _gone()

    follow(comps_named(document), [] if own is None else [(own, document.name)])


_Path = list[tuple[int, str]]


def _inner(
    document: Document,
    project_id: int,
    path: _Path,
    unready: dict[str, NeatVeilError] | None,
    drafts: dict[str, dict[str, Any]] | None,
) -> dict[str, Document]:
    found = {}
    numbers = comps_named(document)
    rows = _rows(project_id, numbers)
    for number in numbers:
        try:
            found[comp_key(number)] = _one(rows.get(number), project_id, path, unready, drafts)
        except NeatVeilError as error:
            if unready is None:
                raise
            unready[comp_key(number)] = error
    return found


def _one(
    row: Comp | None,
    project_id: int,
    path: _Path,
    unready: dict[str, NeatVeilError] | None,
    drafts: dict[str, dict[str, Any]] | None,
) -> Document:
    if row is None:
        raise _gone()
    within = _onward(row, path)
    if unready is None:
        return _filled(parse_comp(row.document, row.name), project_id, within, None, drafts)
    return _filled(parse_comp(row.document, row.name, lenient=True), project_id, within, {}, drafts)


def _filled(
    document: Document,
    project_id: int,
    path: _Path,
    unready: dict[str, NeatVeilError] | None,
    drafts: dict[str, dict[str, Any]] | None,
) -> Document:
    elements = elements_used(document, project_id, drafts, unready)
    comps = _inner(document, project_id, path, unready, drafts)
    return document.with_elements(elements, unready, comps, cameras_used(document, project_id))


def _rows(project_id: int, numbers: list[int]) -> dict[int, Comp]:
    if not numbers:
        return {}
    return {c.pk: c for c in Comp.objects.filter(project_id=project_id, pk__in=numbers)}


def _gone() -> DocumentRefused:
    return DocumentRefused(
        "The comp that it shows is not in the project any more.",
        advice="Choose another one for it or remove the layer.",
    )


def _onward(row: Comp, path: _Path) -> _Path:
    """The path with one more comp; `DocumentRefused` where it is on it already."""
    if row.pk in [n for n, _ in path]:
        names = [name for _, name in path] + [row.name]
        raise DocumentRefused(
            f"Comps hold each other in a circle: {' > '.join(names)}.",
            advice="Take the layer that closes the circle out of one of them.", where=row.name,
        )  # fmt: skip
    return [*path, (row.pk, row.name)]
