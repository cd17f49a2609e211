"""Rights: a member sees everything of a project, anybody else nothing, not even that it is there."""

from __future__ import annotations

from typing import Any, TypeVar

from config.errors import NotThere
from django.db import models

from .models import Member, Project

M = TypeVar("M", bound=models.Model)


def is_member(person: Any, project_id: int) -> bool:
    return Member.objects.filter(project_id=project_id, person_id=person.pk).exists()


def project_for(person: Any, project_id: int) -> Project:
    """The project, for a member; `NotThere` for anybody else."""
    project = Project.objects.filter(pk=project_id, member__person_id=person.pk).first()
    if project is None:
        raise NotThere("This project is not there.", advice="Check the address, or ask to be added to it.")
    return project


def row_for(
    person: Any, model: type[M], row_id: int, kind: str, *related: str, among: models.Manager[M] | None = None
) -> M:
    """A row of a model that has a ``project``, for a member of it; `NotThere` for anybody else.

    ``among``: rows that are not usually there too.
    """
    manager = among or model._default_manager
    rows = manager.select_related(*related) if related else manager.all()
    row = rows.filter(pk=row_id, project__member__person_id=person.pk).first()
    if row is None:
        raise not_there(kind)
    return row


def not_there(kind: str) -> NotThere:
    """The answer for what is not there, and for what is there for others only."""
    return NotThere(
        f"This {kind} is not there.", advice="Check the address, or ask to be added to its project."
    )
