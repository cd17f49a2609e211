"""Font files of a project, for texts that are set in them."""

from __future__ import annotations

from config.auth import person_of
from config.errors import NotThere, Problem
from django.http import HttpRequest
from neatveil.drawn.font_files import path_of
from neatveil.errors import NeatVeilError
from ninja import Router, Schema, Status
from projects.access import project_for

from elements.actions.fonts import bring, bring_over, take_out
from elements.models import FontFile

router = Router()


class FontOut(Schema):
    """``key``: as a text names it. ``letters``: how many it has. ``lightest``, ``boldest``: both 0 of one
    weight."""

    key: str
    title: str
    letters: int
    lightest: float
    boldest: float


class FontFileOut(Schema):
    """``problem``: why nothing can be set in it."""

    key: str
    name: str
    fonts: list[FontOut]
    problem: str = ""


class BringFontsIn(Schema):
    """``project``: the one that has them; ``fonts``: their keys."""

    project: int
    fonts: list[str]


@router.get("projects/{project_id}/fonts", response={200: list[FontFileOut], 404: Problem})
def project_fonts(request: HttpRequest, project_id: int) -> list[FontFileOut]:
    """The project's own; those that ship are told with what is made here."""
    return [_out(row) for row in project_for(request.user, project_id).fonts.all()]


@router.put(
    "projects/{project_id}/fonts", response={200: FontFileOut, 404: Problem, 422: Problem, 507: Problem}
)
def bring_font(request: HttpRequest, project_id: int, name: str) -> FontFileOut:
    """A font file as the request's body: .ttf, .otf, or a collection, by its ``name``."""
    project = project_for(request.user, project_id)
    return _out(bring(project, person_of(request), name, request))


@router.post("projects/{project_id}/fonts/bring-over", response={204: None, 404: Problem})
def bring_fonts_over(request: HttpRequest, project_id: int, body: BringFontsIn) -> Status[None]:
    """Give the project font files of another one, which the same person sees."""
    bring_over(project_for(request.user, body.project), body.fonts, project_for(request.user, project_id))
    return Status(204, None)


@router.delete("projects/{project_id}/fonts/{key}", response={204: None, 404: Problem, 409: Problem})
def remove_font(request: HttpRequest, project_id: int, key: str) -> Status[None]:
    """Take it out of the project; no text may be set in it."""
    row = project_for(request.user, project_id).fonts.filter(key=key).first()
    if row is None:
        raise NotThere("The project has no such font file.")
    take_out(row)
    return Status(204, None)


def _out(row: FontFile) -> FontFileOut:
    try:
        path_of(row.key)
        problem = ""
    except NeatVeilError as error:  # its file is gone
        problem = error.message
    return FontFileOut(
        key=row.key, name=row.name, fonts=[FontOut(**font) for font in row.fonts], problem=problem
    )
