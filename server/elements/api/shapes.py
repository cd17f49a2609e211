"""What the API says of elements."""

from __future__ import annotations

from typing import Literal, cast

from config.auth import person_of
from config.errors import Problem
from django.http import HttpRequest
from neatveil.alpha import Reading
from neatveil.alpha.suggest import Suggestion
from neatveil.io import Facts
from ninja import Field, Schema
from projects.access import not_there, row_for

from elements.models import Element
from elements.resolve import key

Gaps = Literal["error", "hold", "black"]
State = Literal["arriving", "ready", "refused"]
Ends = Literal["hold", "blank", "error"]


class SpreadOut(Schema):
    """One channel over a box; ``histogram``: 256 counts from 0 to 1."""

    mean: float
    spread: float
    low: float
    high: float
    not_numbers: int
    histogram: list[int]


class CarriedOut(Schema):
    """A channel that is carried along from another element."""

    element: int
    name: str
    channel: str = ""
    offset: int = 0
    ends: Ends = "error"
    inverted: bool = False
    data: bool = False


class ElementOut(Schema):
    id: int
    key: str
    name: str
    folder: str
    label: str = Field(description="A word that people gather elements by; empty for none.")
    library: int | None
    state: State
    problem: Problem | None
    facts: Facts | None
    reading: Reading
    reading_words: str
    reading_set: bool
    suggestion: Suggestion | None
    encoding: str
    rate: str | None
    gaps: Gaps
    only: list[str] | None
    parts: list[CarriedOut]
    kinds: dict[str, Literal["colour", "data"]]
    holds: str = Field(description="Kind of data; empty for colour.")
    has_alpha: bool = Field(description="Of its own or carried along.")
    replaced: bool = Field(description="Another file lies under its name now; somebody must say yes.")
    changes: int


def element_out(row: Element, changes: int | None = None) -> ElementOut:
    reading = Reading.model_validate(row.reading)
    facts = Facts.model_validate(row.facts) if row.facts else None
    own = facts is not None and facts.alpha and (row.only is None or "A" in row.only)
    # all of it comes from our own rows and is checked already: a list of thousands need not be checked again
    return ElementOut.model_construct(
        id=row.pk, key=key(row), name=row.name, folder=row.folder, label=row.label, library=row.library_id,
        state=cast("State", row.state),
        problem=Problem(**row.problem) if row.problem else None, facts=facts, reading=reading,
        reading_words=reading.words(), reading_set=row.reading_set,
        suggestion=Suggestion.model_validate(row.suggestion) if row.suggestion else None,
        encoding=row.encoding,
        rate=row.rate or (facts.rate if facts else None), gaps=cast("Gaps", row.gaps), only=row.only,
        parts=[CarriedOut(**p) for p in row.parts],
        kinds=row.kinds, holds=row.holds, has_alpha=own or any(p["name"] == "A" for p in row.parts),
        replaced=row.replaced is not None,
        changes=row.changes.filter(undone=None).count() if changes is None else changes,
    )  # fmt: skip


def element_for(request: HttpRequest, element_id: int) -> Element:
    """The row, for a member of its project."""
    return row_for(request.user, Element, element_id, "element", "library")


def elements_for(request: HttpRequest, numbers: list[int]) -> list[Element]:
    """The rows, each once and in this order, for a member of all their projects; in one question."""
    wanted = [n for n in dict.fromkeys(numbers) if abs(n) < 1 << 63]
    rows = Element.objects.select_related("library").filter(
        pk__in=wanted, project__member__person_id=person_of(request).pk
    )
    found = {row.pk: row for row in rows}
    if len(found) < len(set(numbers)):
        raise not_there("element")
    return [found[n] for n in wanted]
