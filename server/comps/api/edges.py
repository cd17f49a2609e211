"""Edges of mattes found ahead. How far one is, and stopping it: see jobs."""

from __future__ import annotations

from config.auth import person_of
from config.errors import Problem
from django.http import HttpRequest
from jobs.api import JobOut, job_out
from ninja import Field, Router, Schema, Status
from projects.access import row_for

from comps.actions.find_edges import is_of_now, order_edges
from comps.models import Comp, EdgeSearch

router = Router()


class EdgesIn(Schema):
    """``owner``: empty for the layer's own matte, ``alpha`` for a group's, or the place of a step."""

    layer: str = Field(max_length=64)
    owner: str = Field("", pattern=r"^(|alpha|\d{1,4})$")
    first: int
    last: int


class EdgesOut(Schema):
    """``of_now``: the layer is still what they were found for, but for what comes after its matte."""

    job: JobOut
    layer: str
    owner: str
    first: int
    last: int
    of_now: bool


def _out(row: EdgeSearch) -> EdgesOut:
    pieces = list(row.job.pieces.all())
    return EdgesOut(
        job=job_out(row.job), layer=row.layer, owner=row.owner, first=pieces[0].first, last=pieces[-1].last,
        of_now=is_of_now(row),
    )  # fmt: skip


@router.get("comps/{comp_id}/edges", response={200: list[EdgesOut], 404: Problem})
def list_edges(request: HttpRequest, comp_id: int) -> list[EdgesOut]:
    """The last search of each matte of the comp."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    rows = comp.edge_searches.select_related("comp", "job__person").prefetch_related("job__pieces")
    return [_out(row) for row in rows]


@router.post("comps/{comp_id}/edges", response={201: EdgesOut, 404: Problem, 409: Problem, 422: Problem})
def find_edges(request: HttpRequest, comp_id: int, body: EdgesIn) -> Status[EdgesOut]:
    """Find the edge of a matte in the picture for a range of frames; the comp is not changed by it."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    row = order_edges(comp, person_of(request), body.layer, body.owner, body.first, body.last)
    return Status(201, _out(row))
