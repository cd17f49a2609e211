"""Scenes: bringing in, drafts, set-ups."""

from __future__ import annotations

from typing import Literal, cast

from config.engine import drawing
from config.errors import NotThere, Problem
from config.pictures import Shown, shown_response
from django.http import HttpRequest, HttpResponse
from neatveil.errors import ValueRefused
from neatveil.scene.facts import SceneFacts
from neatveil.scene.passes import PASSES
from neatveil.scene.placed import PlacedCamera
from neatveil.scene.setup import RenderSetup, parse_setup
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from .actions.bring_scene import finish_scene, receive_scene_file, remove_scene, start_scene
from .actions.keep_setup import keep_setup
from .drafting import Asked, camera_to_go_on_from, drafted, values_at
from .models import Scene, SetUp
from .warming import warm_soon

State = Literal["arriving", "ready", "refused"]
router = Router(tags=["scenes"])


class SceneOut(Schema):
    id: int
    name: str
    state: State
    problem: Problem | None
    facts: SceneFacts | None


class SceneFileOut(Schema):
    name: str
    bytes: int


class SceneNameIn(Schema):
    name: str


class PassOut(Schema):
    name: str
    help: str
    kind: Literal["colour", "data"]
    filtered: bool
    sample: Literal["half", "float"]
    unit: str
    needs: Literal["uv", "later", "catcher", "plate", "sky", "glare"] | None
    codes: bool = Field(description="Whether files of codes can hold it.")


class SetUpOut(Schema):
    id: int
    name: str
    document: RenderSetup


class SetUpIn(Schema):
    name: str = Field(max_length=400)
    document: RenderSetup
    replace: bool = False


def _out(row: Scene) -> SceneOut:
    facts = SceneFacts.model_validate(row.facts) if row.facts else None
    return SceneOut(
        id=row.pk, name=row.name, state=cast("State", row.state), problem=row.problem, facts=facts
    )


def _scene(request: HttpRequest, scene_id: int) -> Scene:
    return row_for(request.user, Scene, scene_id, "scene")


@router.get("passes", response=list[PassOut])
def list_passes(request: HttpRequest) -> list[PassOut]:
    """Every pass that can be rendered."""
    return [
        PassOut(
            name=p.name, help=p.help, kind=p.kind, filtered=p.filtered, sample=p.sample, unit=p.unit,
            needs=p.needs, codes=p.coded != "no",
        )
        for p in PASSES.values()
    ]  # fmt: skip


@router.get("projects/{project_id}/scenes", response={200: list[SceneOut], 404: Problem})
def list_scenes(request: HttpRequest, project_id: int) -> list[SceneOut]:
    rows = project_for(request.user, project_id).scenes.exclude(file="")
    warm_soon()
    return [_out(r) for r in rows]


@router.post("projects/{project_id}/scenes", response={201: SceneOut, 404: Problem})
def add_scene(request: HttpRequest, project_id: int) -> Status[SceneOut]:
    """Start bringing a scene in; its files follow."""
    return Status(201, _out(start_scene(project_for(request.user, project_id), request.user)))


@router.put(
    "scenes/{scene_id}/files",
    response={200: SceneFileOut, 404: Problem, 409: Problem, 422: Problem, 507: Problem},
)
def put_scene_file(request: HttpRequest, scene_id: int, name: str) -> SceneFileOut:
    """A file's bytes as the request's body; ``name`` may begin with folders."""
    return SceneFileOut(name=name, bytes=receive_scene_file(_scene(request, scene_id), name, request))


@router.post("scenes/{scene_id}/finish", response={200: SceneOut, 404: Problem, 422: Problem})
def finish_bringing_scene(request: HttpRequest, scene_id: int) -> SceneOut:
    """All files have come: the scene is read."""
    return _out(finish_scene(_scene(request, scene_id)))


@router.patch("scenes/{scene_id}", response={200: SceneOut, 404: Problem, 422: Problem})
def rename_scene(request: HttpRequest, scene_id: int, body: SceneNameIn) -> SceneOut:
    row = _scene(request, scene_id)
    if not 0 < len(body.name.strip()) <= 300:
        raise ValueRefused("A name has 1 to 300 characters.", where="name")
    row.name = body.name.strip()
    row.save(update_fields=["name"])
    return _out(row)


@router.delete("scenes/{scene_id}", response={204: None, 404: Problem, 409: Problem})
def delete_scene(request: HttpRequest, scene_id: int) -> Status[None]:
    remove_scene(_scene(request, scene_id))
    return Status(204, None)


class DraftShown(Shown):
    """A look at one pass of a scene by a set-up that need not be kept."""

    document: RenderSetup
    name: str = Field("beauty", max_length=40, description="The pass.")
    layer: str = Field("", max_length=60, description="One layer; empty: all of them.")
    rays: int = Field(1, ge=1, le=64, description="Rays a pixel at most: fewer come sooner.")
    as_stored: bool = Field(False, description="The beauty's RGB as the file will hold it.")

    def asked(self) -> Asked:
        return Asked(self.document, self.frame, self.name, self.layer, self.level, self.rays)


@router.post("scenes/{scene_id}/picture", response={404: Problem, 422: Problem})
def scene_picture(request: HttpRequest, scene_id: int, body: DraftShown) -> HttpResponse:
    """The pass as JPEG, or as raw RGBA bytes where exact."""
    row = _scene(request, scene_id)
    with drawing(body.viewer, body.sequence) as outdated:
        picture = drafted(row, body.asked(), region=body.box(), as_stored=body.as_stored, cancelled=outdated)
        return shown_response(body, picture)


class DraftPoint(DraftShown):
    x: int
    y: int


class PassValues(Schema):
    channels: dict[str, float]


@router.post("scenes/{scene_id}/values", response={200: PassValues, 404: Problem, 422: Problem})
def scene_values(request: HttpRequest, scene_id: int, body: DraftPoint) -> PassValues:
    """Every channel of the pass at one pixel of the full size."""
    row = _scene(request, scene_id)
    with drawing(body.viewer and f"{body.viewer}-values", body.sequence) as outdated:
        return PassValues(channels=values_at(row, body.asked(), body.x, body.y, outdated))


class CameraIn(Schema):
    """A set-up that need not be kept, and one of its frames."""

    document: RenderSetup
    frame: int


@router.post("scenes/{scene_id}/camera", response={200: PlacedCamera, 404: Problem, 422: Problem})
def scene_camera(request: HttpRequest, scene_id: int, body: CameraIn) -> PlacedCamera:
    """The scene's own camera at a frame, as one that is placed by hand begins."""
    return camera_to_go_on_from(_scene(request, scene_id), body.document, body.frame)


def _setup_out(row: SetUp) -> SetUpOut:
    return SetUpOut(id=row.pk, name=row.name, document=parse_setup(row.document, row.name))


@router.get("scenes/{scene_id}/setups", response={200: list[SetUpOut], 404: Problem})
def list_setups(request: HttpRequest, scene_id: int) -> list[SetUpOut]:
    return [_setup_out(r) for r in _scene(request, scene_id).setups.all()]


@router.post("scenes/{scene_id}/setups", response={200: SetUpOut, 404: Problem, 409: Problem, 422: Problem})
def save_setup(request: HttpRequest, scene_id: int, body: SetUpIn) -> SetUpOut:
    """Keep a set-up under a name; ``replace`` allows to save over one."""
    scene = _scene(request, scene_id)
    return _setup_out(keep_setup(scene, request.user, body.name, body.document, replace=body.replace))


@router.delete("scenes/{scene_id}/setups/{setup_id}", response={204: None, 404: Problem})
def delete_setup(request: HttpRequest, scene_id: int, setup_id: int) -> Status[None]:
    row = _scene(request, scene_id).setups.filter(pk=setup_id).first()
    if row is None:
        raise NotThere("This set-up is not there.")
    row.delete()
    return Status(204, None)
