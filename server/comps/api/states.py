"""Named states of a comp: what it was at a time, to be compared with and gone back to."""

from __future__ import annotations

from datetime import datetime

from config.errors import Problem
from config.events import announce
from django.http import HttpRequest
from neatveil.comp import Comp as Document
from ninja import Field, Router, Schema, Status
from projects.access import row_for

from comps.models import Comp, CompRevision
from comps.revisions import document_at

router = Router()


class StateIn(Schema):
    name: str = Field(min_length=1, max_length=200)


class StateOut(Schema):
    revision: int
    name: str
    at: datetime
    document: Document


def _out(row: CompRevision) -> StateOut:
    document = Document.model_validate(document_at(row.comp, row.revision))
    return StateOut(revision=row.revision, name=row.name, at=row.at, document=document)


@router.get("comps/{comp_id}/states", response={200: list[StateOut], 404: Problem})
def list_states(request: HttpRequest, comp_id: int) -> list[StateOut]:
    """Named states, the newest first."""
    rows = row_for(request.user, Comp, comp_id, "comp").revisions.exclude(name="").order_by("-revision")
    return [_out(row) for row in rows]


@router.post("comps/{comp_id}/states", response={200: StateOut, 404: Problem, 422: Problem})
def name_state(request: HttpRequest, comp_id: int, body: StateIn) -> StateOut:
    """Give the newest state a name; a name that was used before moves to it."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    name = body.name.strip()
    comp.revisions.filter(name=name).update(name="")
    row = comp.revisions.get(revision=comp.revision)
    row.name = name
    row.save(update_fields=["name"])
    announce(comp.project_id, "comps", comp.pk)
    return _out(row)


@router.delete("comps/{comp_id}/states/{revision}", response={204: None, 404: Problem})
def forget_state(request: HttpRequest, comp_id: int, revision: int) -> Status[None]:
    """Take the name off; the state itself stays where undo finds it."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    comp.revisions.filter(revision=revision).update(name="")
    announce(comp.project_id, "comps", comp.pk)
    return Status(204, None)
