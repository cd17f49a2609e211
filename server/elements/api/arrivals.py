"""Bringing files in: piece by piece, going on where it broke off, checked at the end."""

from __future__ import annotations

from typing import Any

from config.auth import person_of
from config.engine import decoder
from config.errors import Conflict, Problem
from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema, Status
from projects.access import project_for, row_for
from projects.models import Project

from elements.actions.finish_arrival import finish_arrival, give_up
from elements.actions.receive_file import arrived, receive_piece
from elements.models import Arrival

from .shapes import ElementOut, element_out

router = Router()


class ExpectedFile(Schema):
    name: str
    bytes: int


class ArrivalIn(Schema):
    files: list[ExpectedFile] = []


class ArrivedFile(Schema):
    name: str
    bytes: int
    whole: bool


class ArrivalOut(Schema):
    id: int
    expected: list[ExpectedFile]
    files: list[ArrivedFile]


class FileOut(Schema):
    name: str
    bytes: int


def _out(arrival: Arrival) -> ArrivalOut:
    files = [ArrivedFile(name=n, bytes=b, whole=w) for n, (b, w) in sorted(arrived(arrival).items())]
    return ArrivalOut(id=arrival.pk, expected=arrival.expected, files=files)


@router.post("projects/{project_id}/arrivals", response={201: ArrivalOut, 404: Problem})
def start_arrival(request: HttpRequest, project_id: int, body: ArrivalIn | None = None) -> Status[ArrivalOut]:
    """Start importing a number of files that belong together; say which, so that it can go on later.

    An arrival of the same person that was not finished and expects these files goes on where it broke off.
    """
    project = project_for(request.user, project_id)
    expected = [f.model_dump() for f in body.files] if body else []
    found = next((r for r in _unfinished(request, project) if r.expected and _expects(r, expected)), None)
    if found is None:
        found = Arrival.objects.create(project=project, person=person_of(request), expected=expected)
    return Status(201, _out(found))


def _unfinished(request: HttpRequest, project: Project) -> QuerySet[Arrival]:
    return Arrival.objects.filter(project=project, person=person_of(request), finished=False)


def _expects(arrival: Arrival, files: list[dict[str, Any]]) -> bool:
    """Whether all of some files are among those that it was begun for, by name and size."""
    return bool(files) and all(file in arrival.expected for file in files)


@router.get("projects/{project_id}/arrivals", response={200: list[ArrivalOut], 404: Problem})
def open_arrivals(request: HttpRequest, project_id: int) -> list[ArrivalOut]:
    """This person's arrivals that were not finished."""
    project = project_for(request.user, project_id)
    return [_out(r) for r in _unfinished(request, project) if r.expected]


@router.get("arrivals/{arrival_id}", response={200: ArrivalOut, 404: Problem})
def arrival(request: HttpRequest, arrival_id: int) -> ArrivalOut:
    """What has come so far."""
    return _out(row_for(request.user, Arrival, arrival_id, "arrival"))


@router.put(
    "arrivals/{arrival_id}/files",
    response={200: FileOut, 404: Problem, 409: Problem, 422: Problem, 507: Problem},
)
def put_file(
    request: HttpRequest, arrival_id: int, name: str, offset: int = 0, last: bool = True, sha256: str = ""
) -> FileOut:
    """The bytes of a file from ``offset`` on as the request's body; ``sha256`` of the whole with the last."""
    row = row_for(request.user, Arrival, arrival_id, "arrival")
    if row.finished:
        raise Conflict("This arrival is finished.", advice="Start another one.")
    count = receive_piece(row, name, request, offset=offset, last=last, sha256=sha256)
    return FileOut(name=name, bytes=count)


@router.post("arrivals/{arrival_id}/finish", response={200: list[ElementOut], 404: Problem, 422: Problem})
def finish(request: HttpRequest, arrival_id: int) -> list[ElementOut]:
    """All files have come: they become elements, a few small ones with their facts at once."""
    rows = finish_arrival(row_for(request.user, Arrival, arrival_id, "arrival"), decoder())
    return [element_out(r) for r in rows]


@router.delete("arrivals/{arrival_id}", response={204: None, 404: Problem, 409: Problem})
def forget_arrival(request: HttpRequest, arrival_id: int) -> Status[None]:
    """Discard it, with the files that were received."""
    give_up(row_for(request.user, Arrival, arrival_id, "arrival"))
    return Status(204, None)
