"""Elements of one project used in another: the same files, read in the same way, under keys of their own."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from projects.models import Project

from elements.models import ColourConfiguration, Element, Library

#: What of a row is its project's alone.
_OWN = {"id", "project", "library", "parts", "created"}
#: What two rows of the same files must have alike to be the same element.
_SAME = ("state", "reading", "encoding", "rate", "gaps", "only", "kinds", "holds")


def bring_over(rows: Sequence[Element], project: Project) -> dict[int, Element]:
    """The project's elements that stand for those of another, by their numbers; with all that these carry.

    One that the project has already, with the same files, reading and encoding, stands for itself. Files in a
    registered folder are brought where the project has the same folder.

    Raises `Conflict` that names the element: it is not ready, lies in a folder that the project has not, or
    is read in a space of a configuration that the project has not.
    """
    with transaction.atomic():
        lacking = _configurations_lacking(rows, project)
        done: dict[int, Element] = {}
        for row in rows:
            _bring(row, project, lacking, done)
    for row in done.values():
        announce(project.pk, "elements", row.pk)
    return done


def _bring(
    row: Element, project: Project, lacking: Sequence[ColourConfiguration], done: dict[int, Element]
) -> Element:
    if row.pk in done:
        return done[row.pk]
    if row.state != Element.State.READY:
        raise Conflict(f"{row.name} is not ready.", advice="Wait until it is.", where=row.name)
    _check_encoding(row, project, lacking)
    parts = []
    for part in row.parts:
        carried = Element.objects.select_related("library").get(pk=part["element"])
        parts.append({**part, "element": _bring(carried, project, lacking, done).pk})
    library = _library(row, project)
    given = {f.name: getattr(row, f.name) for f in Element._meta.concrete_fields if f.name not in _OWN}
    done[row.pk] = _alike(project, library, parts, given) or Element.objects.create(
        project=project, library=library, parts=parts, **given
    )
    return done[row.pk]


def _alike(
    project: Project, library: Library | None, parts: list[dict[str, Any]], given: dict[str, Any]
) -> Element | None:
    """The project's own element of the same files, read in the same way."""
    same = {**{n: given[n] for n in _SAME}, "parts": parts}
    for row in Element.objects.filter(project=project, library=library, file=given["file"]):
        if all(getattr(row, name) == value for name, value in same.items()):
            return row
    return None


def _configurations_lacking(rows: Sequence[Element], project: Project) -> list[ColourConfiguration]:
    """Configurations of the elements' projects that the project has not."""
    there = ColourConfiguration.objects.filter(project=project).values("key")
    of = {row.project_id for row in rows}
    return list(ColourConfiguration.objects.filter(project__in=of).exclude(key__in=there))


def _check_encoding(row: Element, project: Project, lacking: Sequence[ColourConfiguration]) -> None:
    for own in lacking:
        if row.encoding.startswith(f"{own.key}/"):
            raise Conflict(
                f"{row.name} is read in a space of {own.name}, a configuration that {project.name} has not.",
                advice="Add the configuration to that project first.", where=row.name,
            )  # fmt: skip


def _library(row: Element, project: Project) -> Library | None:
    if row.library is None:
        return None
    found = Library.objects.filter(project=project, path=row.library.path).first()
    if found is None:
        raise Conflict(
            f"{row.name} lies in the folder {row.library.name}, which {project.name} has not registered.",
            advice="Register the folder in that project first.", where=row.name,
        )  # fmt: skip
    return found
