"""Slots of a comp, and the list whose rows fill them."""

from __future__ import annotations

from typing import Any, Literal

from config.errors import Problem
from django.http import HttpRequest
from neatveil.comp import Comp as Document
from neatveil.comp.rows import parse_rows
from neatveil.comp.slots import default_of, kind_of
from neatveil.errors import NeatVeilError
from ninja import Field, Router, Schema
from projects.access import row_for

from comps.drawing import stored_document
from comps.lists import cells_wrong, with_row
from comps.models import Comp

router = Router()

#: Wrong cells of one list that are told at most.
MOST_PROBLEMS = 200


class ListText(Schema):
    text: str = Field(max_length=4_000_000, description="Comma-separated values, as of RFC 4180, or by tabs.")


class ListAsk(Schema):
    """A comp's list, perhaps as a draft."""

    document: Document | None = None


class RowAsk(ListAsk):
    row: int = Field(ge=1)


class SlotOut(Schema):
    """``kind`` is empty where the slot's place is gone; ``problem`` says so."""

    name: str
    kind: Literal["picture", "text", "number", "colour", ""]
    default: str
    problem: str


class CellProblemOut(Schema):
    """``row``: from 1; 0 where the column itself is wrong."""

    row: int
    column: str
    message: str
    advice: str


class ListOut(Schema):
    slots: list[SlotOut]
    problems: list[CellProblemOut]


def _asked(request: HttpRequest, comp_id: int, body: ListAsk) -> tuple[Document, int]:
    comp = row_for(request.user, Comp, comp_id, "comp")
    return body.document or stored_document(comp), comp.project_id


@router.post("comps/{comp_id}/list/read", response={200: list[dict[str, str]], 404: Problem, 422: Problem})
def read_list(request: HttpRequest, comp_id: int, body: ListText) -> list[dict[str, str]]:
    """Rows of a pasted table or a CSV file."""
    row_for(request.user, Comp, comp_id, "comp")
    return parse_rows(body.text)


@router.post("comps/{comp_id}/list/check", response={200: ListOut, 404: Problem, 422: Problem})
def check_list(request: HttpRequest, comp_id: int, body: ListAsk) -> ListOut:
    """The slots with their defaults, and every cell that is wrong."""
    document, project = _asked(request, comp_id, body)
    slots, broken = [], False
    for slot in document.slots:
        try:
            slots.append(
                SlotOut(
                    name=slot.name,
                    kind=kind_of(document, slot),
                    default=default_of(document, slot),
                    problem="",
                )
            )
        except NeatVeilError as error:
            broken = True
            slots.append(SlotOut(name=slot.name, kind="", default="", problem=error.message))
    problems = [] if broken else cells_wrong(document, project)
    return ListOut(slots=slots, problems=[CellProblemOut(**p._asdict()) for p in problems[:MOST_PROBLEMS]])


@router.post("comps/{comp_id}/list/row", response={200: dict[str, Any], 404: Problem, 422: Problem})
def fill_row(request: HttpRequest, comp_id: int, body: RowAsk) -> dict[str, Any]:
    """The document with a row's values in its slots."""
    document, project = _asked(request, comp_id, body)
    return with_row(document, project, body.row).model_dump(mode="json")
