"""Comps: documents with revisions, and their pictures."""

from __future__ import annotations

import json
import time
from typing import Any, Literal

from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest, HttpResponse
from elements.api.shapes import Encoding
from neatveil.alpha import Reading
from neatveil.comp import Comp as Document
from neatveil.errors import ValueRefused
from neatveil.evaluate import frame_box
from neatveil.merge import OPERATORS
from neatveil.steps.table import STEPS
from neatveil.view import sample
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from .actions.add_comp import add_comp
from .actions.change_comp import change_comp, redo, undo
from .asking import document_for
from .drawing import before, document_of
from .models import Comp
from .pictures import SampleOut, Shown, screen_for, screen_response, shown_response

router = Router(tags=["comps"])


class CompOut(Schema):
    id: int
    project: int
    name: str
    revision: int
    document: Document
    can_undo: str | None
    can_redo: str | None


class CompRow(Schema):
    id: int
    name: str
    revision: int
    rate: str


class CompIn(Schema):
    base: int
    what: str = ""
    document: Document


class BaseIn(Schema):
    base: int


def _out(comp: Comp) -> CompOut:
    newest = comp.revisions.get(revision=comp.revision)
    after = comp.revisions.filter(revision=newest.redo_to).first() if newest.redo_to else None
    return CompOut(
        id=comp.pk, project=comp.project_id, name=comp.name, revision=comp.revision,
        document=Document.model_validate(comp.document),
        can_undo=(newest.what or "change") if newest.undo_to is not None else None,
        can_redo=(after.what or "change") if after else None,
    )  # fmt: skip


@router.get("projects/{project_id}/comps", response={200: list[CompRow], 404: Problem})
def list_comps(request: HttpRequest, project_id: int) -> list[CompRow]:
    rows = project_for(request.user, project_id).comps.all()
    return [
        CompRow(id=c.pk, name=c.name, revision=c.revision, rate=str(c.document.get("rate", "25")))
        for c in rows
    ]


@router.post("projects/{project_id}/comps", response={201: CompOut, 404: Problem, 422: Problem})
def make_comp(request: HttpRequest, project_id: int, body: Document) -> Status[CompOut]:
    project = project_for(request.user, project_id)
    return Status(201, _out(add_comp(project, body, request.user)))


@router.get("comps/{comp_id}", response={200: CompOut, 404: Problem})
def read_comp(request: HttpRequest, comp_id: int) -> CompOut:
    return _out(row_for(request.user, Comp, comp_id, "comp"))


@router.put("comps/{comp_id}", response={200: CompOut, 404: Problem, 409: Problem, 422: Problem})
def write_comp(request: HttpRequest, comp_id: int, body: CompIn) -> CompOut:
    """The whole document, with the revision it started from and the change in words."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    return _out(change_comp(comp.pk, body.document, body.base, request.user, body.what))


@router.post("comps/{comp_id}/undo", response={200: CompOut, 404: Problem, 409: Problem})
def undo_comp(request: HttpRequest, comp_id: int, body: BaseIn) -> CompOut:
    return _out(undo(row_for(request.user, Comp, comp_id, "comp").pk, body.base, request.user))


@router.post("comps/{comp_id}/redo", response={200: CompOut, 404: Problem, 409: Problem})
def redo_comp(request: HttpRequest, comp_id: int, body: BaseIn) -> CompOut:
    return _out(redo(row_for(request.user, Comp, comp_id, "comp").pk, body.base, request.user))


@router.delete("comps/{comp_id}", response={204: None, 404: Problem})
def delete_comp(request: HttpRequest, comp_id: int) -> Status[None]:
    row_for(request.user, Comp, comp_id, "comp").delete()
    return Status(204, None)


@router.get("comps/{comp_id}/document.json", response={404: Problem})
def export_comp(request: HttpRequest, comp_id: int) -> HttpResponse:
    """The open document with its elements, as the command line takes it."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    document = document_of(comp)
    data = document.model_dump(mode="json")
    response = HttpResponse(json.dumps(data, indent=2), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="comp-{comp.pk}.json"'
    return response


# --- pictures ------------------------------------------------------------------------------------


class ElementDraft(Schema):
    reading: Reading | None = None
    encoding: Encoding | None = None


class CompShown(Shown):
    """A look at a comp: all of it, the pile up to a layer, or one layer alone; perhaps a draft."""

    document: Document | None = None
    elements: dict[str, ElementDraft] = {}
    layer: str | None = None
    extent: Literal["comp", "upto", "layer"] = "comp"
    before: bool = False
    passing: bool = Field(False, description="Something is being dragged: the picture is not kept.")


class PointIn(CompShown):
    x: int
    y: int


def _drawable(request: HttpRequest, comp_id: int, body: CompShown) -> Document:
    drafts = {k: d.model_dump(exclude_none=True) for k, d in body.elements.items()}
    document = document_for(request.user, comp_id, body.document, drafts)
    if body.before and body.layer:
        document = before(document, body.layer)
    if body.extent != "comp" and not body.layer:
        raise ValueRefused("Name the layer to look at.", where="layer")
    return document


@router.post("comps/{comp_id}/picture", response={404: Problem, 422: Problem})
def comp_picture(request: HttpRequest, comp_id: int, body: CompShown) -> HttpResponse:
    """The comp as asked: JPEG (fast), or raw R, G, B, 255 bytes (exact)."""
    document = _drawable(request, comp_id, body)

    with drawing(body.viewer, body.turn) as outdated:
        start = time.perf_counter()
        part: dict[str, Any] = {
            "level": body.level, "region": body.box(), "cancelled": outdated,
            "upto": body.layer if body.extent == "upto" else None,
            "only": body.layer if body.extent == "layer" else None,
        }  # fmt: skip
        if body.passing:
            frame = frame_box(document, body.level)
            screen = screen_for(body, body.area(frame))
            evaluator().draw(document, body.frame, screen.take, **part)
            evaluated = time.perf_counter()
            response = screen_response(body, screen, frame)
        else:
            picture = evaluator().picture(document, body.frame, **part)
            evaluated = time.perf_counter()
            response = shown_response(body, picture)
    times = (evaluated - start) * 1e3, (time.perf_counter() - evaluated) * 1e3
    response["Server-Timing"] = f"evaluate;dur={times[0]:.1f}, encode;dur={times[1]:.1f}"
    return response


@router.post("comps/{comp_id}/values", response={200: SampleOut, 404: Problem, 422: Problem})
def comp_values(request: HttpRequest, comp_id: int, body: PointIn) -> SampleOut:
    """Values at one pixel of the comp, full size, with the stored ones of a layer."""
    document = _drawable(request, comp_id, body)
    if not (0 <= body.x < document.width and 0 <= body.y < document.height):
        raise ValueRefused(f"({body.x}, {body.y}) lies outside {document.width} x {document.height}.")

    with drawing(body.viewer and f"{body.viewer}-values", body.turn):
        got = sample(evaluator(), document, body.frame, body.x, body.y, body.layer, extent=body.extent)
    return SampleOut.of(got)


# --- what the recipe's controls are made from ------------------------------------------------------


class OperatorOut(Schema):
    name: str
    family: str
    help: str


class StepOut(Schema):
    kind: str
    title: str
    help: str
    fields: dict[str, Any]


class TablesOut(Schema):
    operators: list[OperatorOut]
    steps: list[StepOut]
    place: dict[str, Any]


@router.get("tables", response=TablesOut)
def tables(request: HttpRequest) -> TablesOut:
    """Operators and steps with their parameters' titles, units, ranges and help."""
    from neatveil.comp import Place

    steps = [
        StepOut(kind=k, title=s.title, help=s.help, fields=s.model_json_schema()["properties"])
        for k, s in STEPS.items()
    ]
    return TablesOut(
        operators=[OperatorOut(name=o.name, family=o.family, help=o.help) for o in OPERATORS.values()],
        steps=steps,
        place=Place.model_json_schema()["properties"],
    )
