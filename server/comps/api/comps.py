"""Comps: documents with revisions."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any

from config.errors import Problem
from django.http import HttpRequest, HttpResponse
from neatveil.comp import Comp as Document
from neatveil.comp.loading import is_newer
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from comps.actions.add_comp import add_comp
from comps.actions.change_comp import change_comp, redo, undo
from comps.actions.history import reach_of
from comps.actions.remove_comp import bring_back, remove_comp
from comps.drawing import document_of, stored_document
from comps.inner_comps import comp_key
from comps.models import Comp

router = Router()


class CompOut(Schema):
    id: int
    project: int
    name: str
    revision: int
    document: Document
    can_undo: str | None
    can_redo: str | None
    newer: bool = Field(description="Made by a newer version: shown as far as it is known, not changed.")


class CompRow(Schema):
    """``key``: by which other comps show it as a layer."""

    id: int
    key: str
    name: str
    revision: int
    rate: str
    width: int
    height: int
    first: int
    last: int


#: What a document's frame is where it does not say.
_FRAME = {n: Document.model_fields[n].default for n in ("width", "height", "first", "last")}


class CompIn(Schema):
    base: int
    what: str = ""
    document: Document


class DeletedCompRow(Schema):
    id: int
    name: str
    deleted: datetime


class BaseIn(Schema):
    base: int


def comp_out(comp: Comp, person: Any) -> CompOut:
    """As a person has it: what they can undo are their own changes."""
    reach = reach_of(comp, person)
    return CompOut(
        id=comp.pk, project=comp.project_id, name=comp.name, revision=comp.revision,
        document=stored_document(comp), newer=is_newer(comp.document),
        can_undo=reach.words[0], can_redo=reach.words[1],
    )  # fmt: skip


@router.get("projects/{project_id}/comps", response={200: list[CompRow], 404: Problem})
def list_comps(request: HttpRequest, project_id: int) -> list[CompRow]:
    rows = project_for(request.user, project_id).comps.all()
    return [
        CompRow(
            id=c.pk, key=comp_key(c.pk), name=c.name, revision=c.revision,
            rate=str(c.document.get("rate", "25")),
            **{n: c.document.get(n, d) for n, d in _FRAME.items()},
        )
        for c in rows
    ]  # fmt: skip


@router.post("projects/{project_id}/comps", response={201: CompOut, 404: Problem, 422: Problem})
def make_comp(request: HttpRequest, project_id: int, body: Document) -> Status[CompOut]:
    project = project_for(request.user, project_id)
    return Status(201, comp_out(add_comp(project, body, request.user), request.user))


@router.get("comps/{comp_id}", response={200: CompOut, 404: Problem})
def read_comp(request: HttpRequest, comp_id: int) -> CompOut:
    return comp_out(row_for(request.user, Comp, comp_id, "comp"), request.user)


@router.put("comps/{comp_id}", response={200: CompOut, 404: Problem, 409: Problem, 422: Problem})
def write_comp(request: HttpRequest, comp_id: int, body: CompIn) -> CompOut:
    """The whole document, with the revision it started from and the change in words."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    return comp_out(change_comp(comp.pk, body.document, body.base, request.user, body.what), request.user)


@router.post("comps/{comp_id}/undo", response={200: CompOut, 404: Problem, 409: Problem})
def undo_comp(request: HttpRequest, comp_id: int, body: BaseIn) -> CompOut:
    comp = row_for(request.user, Comp, comp_id, "comp")
    return comp_out(undo(comp.pk, body.base, request.user), request.user)


@router.post("comps/{comp_id}/redo", response={200: CompOut, 404: Problem, 409: Problem})
def redo_comp(request: HttpRequest, comp_id: int, body: BaseIn) -> CompOut:
    comp = row_for(request.user, Comp, comp_id, "comp")
    return comp_out(redo(comp.pk, body.base, request.user), request.user)


@router.delete("comps/{comp_id}", response={204: None, 404: Problem, 409: Problem})
def delete_comp(request: HttpRequest, comp_id: int) -> Status[None]:
    """Refused where other comps show it. It can be brought back for thirty days."""
    remove_comp(row_for(request.user, Comp, comp_id, "comp"))
    return Status(204, None)


@router.get("projects/{project_id}/deleted-comps", response={200: list[DeletedCompRow], 404: Problem})
def list_deleted_comps(request: HttpRequest, project_id: int) -> list[DeletedCompRow]:
    """Those that can be brought back, the last deleted first."""
    project = project_for(request.user, project_id)
    rows = Comp.everything.filter(project=project).exclude(deleted=None).order_by("-deleted")
    return [DeletedCompRow(id=c.pk, name=c.name, deleted=c.deleted) for c in rows if c.deleted]


@router.post("comps/{comp_id}/bring-back", response={200: CompOut, 404: Problem})
def bring_back_comp(request: HttpRequest, comp_id: int) -> CompOut:
    """A deleted comp with all its revisions; nothing happens to one that is there."""
    comp = row_for(request.user, Comp, comp_id, "comp", among=Comp.everything)
    bring_back(comp)
    return comp_out(comp, request.user)


@router.get("comps/{comp_id}/document.json", response={404: Problem})
def export_comp(request: HttpRequest, comp_id: int) -> HttpResponse:
    """The open document with its elements, as the command line takes it."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    document = document_of(comp)
    data = document.model_dump(mode="json")
    response = HttpResponse(json.dumps(data, indent=2), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="comp-{comp.pk}.json"'
    return response
