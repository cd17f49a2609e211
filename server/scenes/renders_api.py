"""Renders: order, list, render again, lay into a comp. How far one is, and stopping it: see jobs."""

from __future__ import annotations

from typing import Literal

from comps.models import Comp
from config.engine import drawing, evaluator
from config.errors import NotThere, Problem
from django.http import FileResponse, HttpRequest, HttpResponse
from elements.pictures import card_response
from elements.resolve import key
from jobs.api import JobOut, job_out
from neatveil.comp import Element as CoreElement
from neatveil.scene.output import written_of
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.rendering import manifest_path
from neatveil.scene.setup import RenderSetup, parse_setup
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from .actions.lay_in import lay_in, lay_into_new
from .actions.order_render import order_render, render_again
from .models import Render, Scene
from .places import opened, render_folder

router = Router(tags=["renders"])


class RenderIn(Schema):
    name: str = Field(max_length=200)
    document: RenderSetup


class AgainIn(Schema):
    document: RenderSetup | None = None


class LayIn(Schema):
    """``comp``: left out, a new one of the render's size, rate and frames is made."""

    comp: int | None = None


class LaidOut(Schema):
    comp: int
    revision: int


class PartOut(Schema):
    element: int
    key: str
    name: str
    beauty: bool


class RenderOut(Schema):
    id: int
    job: JobOut
    scene: int
    scene_name: str
    name: str
    document: RenderSetup
    version: int
    first: int
    last: int
    parts: list[PartOut]
    folder: str = Field(description="Where the files lie, seen from the application's folder.")


def _out(row: Render) -> RenderOut:
    setup = parse_setup(row.document, row.name)
    parts = [
        PartOut(element=p.element_id, key=key(p.element), name=p.element.name, beauty=p.beauty)
        for p in row.parts.all()
    ]
    return RenderOut(
        id=row.pk, job=job_out(row.job), scene=row.scene_id, scene_name=row.scene.name, name=row.name,
        document=setup, version=row.version, first=setup.first, last=setup.last, parts=parts,
        folder=f"media/renders/{row.project_id}/{row.pk}/v{row.version}",
    )  # fmt: skip


def _row(request: HttpRequest, render_id: int) -> Render:
    return row_for(request.user, Render, render_id, "render", "scene", "job__person")


@router.get("projects/{project_id}/renders", response={200: list[RenderOut], 404: Problem})
def list_renders(request: HttpRequest, project_id: int) -> list[RenderOut]:
    project = project_for(request.user, project_id)
    rows = project.renders.select_related("scene", "job__person").prefetch_related(
        "job__pieces", "parts__element"
    )
    return [_out(r) for r in rows[:200]]


@router.post("scenes/{scene_id}/renders", response={201: RenderOut, 404: Problem, 422: Problem})
def order_rendering(request: HttpRequest, scene_id: int, body: RenderIn) -> Status[RenderOut]:
    """Queue a render of a scene by a set-up as it is now."""
    scene = row_for(request.user, Scene, scene_id, "scene")
    return Status(201, _out(order_render(scene, request.user, body.name, body.document)))


@router.get("renders/{render_id}", response={200: RenderOut, 404: Problem})
def read_render(request: HttpRequest, render_id: int) -> RenderOut:
    return _out(_row(request, render_id))


@router.post("renders/{render_id}/again", response={200: RenderOut, 404: Problem, 409: Problem, 422: Problem})
def render_once_more(request: HttpRequest, render_id: int, body: AgainIn) -> RenderOut:
    """Render it again, perhaps by a changed set-up; comps that use it follow once it is done."""
    return _out(render_again(_row(request, render_id), body.document))


@router.post("renders/{render_id}/lay-in", response={200: LaidOut, 404: Problem, 409: Problem, 422: Problem})
def lay_render_in(request: HttpRequest, render_id: int, body: LayIn) -> LaidOut:
    """Its passes as one group on top of a comp's layers, or in a comp of their own."""
    render = _row(request, render_id)
    if body.comp is None:
        made = lay_into_new(render, request.user)
        return LaidOut(comp=made.pk, revision=made.revision)
    comp = row_for(request.user, Comp, body.comp, "comp")
    if comp.project_id != render.project_id:
        raise NotThere("This comp is not there.")
    changed = lay_in(render, comp, request.user)
    return LaidOut(comp=changed.pk, revision=changed.revision)


@router.get("renders/{render_id}/frames/{frame}", response={404: Problem, 422: Problem})
def rendered_frame(
    request: HttpRequest, render_id: int, frame: int, part: Literal["colour", "alpha"] = "colour"
) -> HttpResponse:
    """A small JPEG of a frame that is there already, of the nearest layer's first sequence."""
    row = _row(request, render_id)
    scene, setup = opened(row.scene), parse_setup(row.document).effective()
    first = written_of(scene, setup, render_layers_of(scene, setup)[0])[0]
    file = first.path(render_folder(row), frame)
    if not file.is_file():
        raise NotThere(f"Frame {frame} of {row.name} is not there yet.")
    element = CoreElement(
        name=row.name, file=str(file), still=True, reading=first.reading, encoding=first.encoding
    )
    with drawing("", 0):
        return card_response(evaluator(), element, 0, part)


@router.get("renders/{render_id}/manifest", response={404: Problem})
def render_manifest(request: HttpRequest, render_id: int) -> FileResponse:
    """What each file and channel is, and the camera and lights of every frame, as JSON."""
    row = _row(request, render_id)
    path = manifest_path(opened(row.scene), parse_setup(row.document), render_folder(row))
    if not path.is_file():
        raise NotThere(f"{row.name} is not complete yet.")
    return FileResponse(path.open("rb"), as_attachment=True, filename=path.name)
