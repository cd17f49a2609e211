"""What a picture of a comp needs from the database, in one question.

Pictures are asked for many times a second while something is dragged. The same through the models
takes two queries of 1.5 ms each, most of it spent in making the same SQL and rows anew.
"""

from __future__ import annotations

import json
from typing import Any, NamedTuple

from django.db import connection
from elements.models import Element as ElementRow
from elements.resolve import numbers_used, resolved
from neatveil.comp import Comp as Document
from neatveil.comp.cameras import SceneCamera
from neatveil.comp.elements import Element
from neatveil.comp.loading import parse_comp
from neatveil.errors import NeatVeilError
from projects.access import not_there

from .cameras import cameras_used
from .inner_comps import inner_comps

_FIELDS = (
    "id", "name", "file", "library_id", "state", "facts", "reading", "encoding", "rate", "gaps", "only",
    "parts", "kinds", "replaced",
)  # fmt: skip
_ELEMENT = ", ".join(f"'{field}', e.{field}" for field in _FIELDS)
_QUESTION = (
    # the fields are the constants above
    "SELECT c.name, CASE WHEN %(saved)s THEN c.document END,"
    f" (SELECT json_agg(json_build_object({_ELEMENT})) FROM elements_element e"
    "  WHERE e.project_id = c.project_id AND e.id = ANY(%(elements)s)), c.project_id"
    " FROM comps_comp c"
    " JOIN projects_member m ON m.project_id = c.project_id AND m.person_id = %(person)s"
    " WHERE c.id = %(comp)s AND c.deleted IS NULL"
)


class Sources(NamedTuple):
    """What a comp uses, as `Comp.with_elements` takes it."""

    elements: dict[str, Element]
    unready: dict[str, NeatVeilError]
    comps: dict[str, Document]
    cameras: dict[str, SceneCamera] | None


def document_for(
    person: Any, comp_id: int, draft: Document | None, drafts: dict[str, dict[str, Any]]
) -> Document:
    """A comp with what it uses, for a member of its project; `NotThere` for anybody else.

    Elements that cannot be used now fail where something asks for them: the rest is shown.

    ``draft``: instead of the saved document. ``drafts``: readings, encodings or rates by element.
    """
    document, sources = ask_sources(person, comp_id, draft, drafts)
    return document.with_elements(*sources)


def ask_sources(
    person: Any, comp_id: int, draft: Document | None, drafts: dict[str, dict[str, Any]]
) -> tuple[Document, Sources]:
    """The same, the document and what it uses apart."""
    saved, rows, project = _ask(person, comp_id, draft)
    if draft is None:
        draft = saved
        _, rows, _ = _ask(person, comp_id, draft)
    unready: dict[str, NeatVeilError] = {}
    elements = resolved((ElementRow(**row) for row in rows), drafts, unready)
    comps = inner_comps(draft, project, comp_id, unready, drafts)
    # a comp that was laid from a render names its camera, and mostly nothing stands before it
    cameras = cameras_used(draft, project) if draft.needs_cameras else None
    return draft, Sources(elements, unready, comps, cameras)


def _ask(person: Any, comp_id: int, draft: Document | None) -> tuple[Any, list[dict[str, Any]], int]:
    """The saved document where there is no draft, the rows of the elements that a draft uses, the project."""
    numbers = [] if draft is None else numbers_used(draft)
    with connection.cursor() as cursor:
        cursor.execute(
            _QUESTION,
            {"saved": draft is None, "elements": numbers, "person": person.pk, "comp": comp_id},
        )
        row = cursor.fetchone()
    if row is None:
        raise not_there("comp")
    name, document, rows, project = row
    return document and parse_comp(json.loads(document), name, lenient=True), rows or [], project
