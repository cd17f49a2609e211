"""Library folders: which can be chosen, registering, forgetting."""

from __future__ import annotations

from datetime import datetime

from config.errors import Problem
from django.http import HttpRequest
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from elements.actions.library import folders_in, register, unregister
from elements.models import Library

router = Router()


class LibraryOut(Schema):
    id: int
    name: str
    path: str
    there: bool
    seen: datetime | None
    elements: int
    passed_over: list[str] = Field(description="Entries that cannot be elements, and why.")


class LibraryIn(Schema):
    path: str


class FolderOut(Schema):
    name: str
    path: str


def _out(row: Library) -> LibraryOut:
    return LibraryOut(
        id=row.pk,
        name=row.name,
        path=row.path,
        there=row.there,
        seen=row.seen,
        elements=row.elements.count(),
        passed_over=row.passed_over,
    )


@router.get("projects/{project_id}/libraries", response={200: list[LibraryOut], 404: Problem})
def list_libraries(request: HttpRequest, project_id: int) -> list[LibraryOut]:
    return [_out(r) for r in project_for(request.user, project_id).libraries.all()]


@router.get("projects/{project_id}/folders", response={200: list[FolderOut], 404: Problem, 422: Problem})
def list_folders(request: HttpRequest, project_id: int, inside: str = "") -> list[FolderOut]:
    """Folders on the server that may be registered: the topmost ones, or those inside one."""
    project_for(request.user, project_id)
    return [FolderOut(name=p.name, path=str(p)) for p in folders_in(inside)]


@router.post(
    "projects/{project_id}/libraries",
    response={201: LibraryOut, 404: Problem, 409: Problem, 422: Problem},
)
def register_library(request: HttpRequest, project_id: int, body: LibraryIn) -> Status[LibraryOut]:
    """Register a folder without copying it; it is watched, and never written to."""
    project = project_for(request.user, project_id)
    return Status(201, _out(register(project, request.user, body.path)))


@router.delete("libraries/{library_id}", response={204: None, 404: Problem, 409: Problem})
def forget_library(request: HttpRequest, library_id: int) -> Status[None]:
    """Forget it and its elements; its files stay."""
    unregister(row_for(request.user, Library, library_id, "library"))
    return Status(204, None)
