"""Projects and their members."""

from __future__ import annotations

from datetime import datetime

from config.auth import person_of
from config.errors import NotThere, Problem
from django.http import HttpRequest
from ninja import Field, Router, Schema, Status
from people.models import Person

from .access import project_for
from .contents import contents_of
from .models import Member, Project

router = Router(tags=["projects"])


class ProjectIn(Schema):
    name: str = Field(min_length=1, max_length=200)


class MemberOut(Schema):
    id: int
    name: str


class ProjectOut(Schema):
    id: int
    name: str
    members: list[MemberOut]


class ListedProject(ProjectOut):
    """``counts``: of each kind of contents; ``touched``: the last change of them, or when it was made.

    ``picture``: address of one of the comp that was worked on last; empty without any.
    """

    counts: dict[str, int]
    touched: datetime
    picture: str


def _members(project: Project) -> list[MemberOut]:
    return [MemberOut(id=p.pk, name=p.get_username()) for p in project.members.order_by("username")]


def _out(project: Project) -> ProjectOut:
    return ProjectOut(id=project.pk, name=project.name, members=_members(project))


@router.get("projects", response=list[ListedProject])
def list_projects(request: HttpRequest) -> list[ListedProject]:
    """The person's projects, the one that was worked on last first."""
    rows = Project.objects.filter(member__person=person_of(request))
    return sorted((_listed(p) for p in rows), key=lambda p: (p.touched, p.id), reverse=True)


def _listed(project: Project) -> ListedProject:
    held = contents_of(project.pk)
    return ListedProject(
        id=project.pk, name=project.name, members=_members(project), counts=held.counts,
        touched=max(held.touched or project.created, project.created), picture=held.picture,
    )  # fmt: skip


@router.post("projects", response={201: ProjectOut, 422: Problem})
def add_project(request: HttpRequest, body: ProjectIn) -> Status[ProjectOut]:
    project = Project.objects.create(name=body.name)
    Member.objects.create(project=project, person=person_of(request))
    return Status(201, _out(project))


@router.get("projects/{project_id}", response={200: ProjectOut, 404: Problem})
def read_project(request: HttpRequest, project_id: int) -> ProjectOut:
    return _out(project_for(request.user, project_id))


@router.patch("projects/{project_id}", response={200: ProjectOut, 404: Problem, 422: Problem})
def rename_project(request: HttpRequest, project_id: int, body: ProjectIn) -> ProjectOut:
    project = project_for(request.user, project_id)
    project.name = body.name
    project.save(update_fields=["name"])
    return _out(project)


@router.post("projects/{project_id}/members", response={200: ProjectOut, 404: Problem})
def add_member(request: HttpRequest, project_id: int, body: ProjectIn) -> ProjectOut:
    """Add a person by the name they sign in with."""
    project = project_for(request.user, project_id)
    person = Person.objects.filter(username=body.name, is_active=True).first()
    if person is None:
        raise NotThere(f"Nobody signs in as {body.name!r}.", advice="Check the spelling.")
    Member.objects.get_or_create(project=project, person=person)
    return _out(project)
