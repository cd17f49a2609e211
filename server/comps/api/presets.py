"""What a project keeps under names to be used again: sets of steps, patches, looks."""

from __future__ import annotations

from typing import Any, Literal

from config.errors import Problem
from config.events import announce
from django.http import HttpRequest
from neatveil.comp.loading import VERSION
from neatveil.comp.upgrades import upgrade_steps
from neatveil.errors import ValueRefused
from neatveil.steps import StepUnion
from neatveil.steps.foreign import ForeignStep
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for
from pydantic import TypeAdapter, ValidationError

from comps.models import Preset

router = Router()
_STEPS: TypeAdapter[Any] = TypeAdapter(tuple[StepUnion, ...])
Kind = Literal["steps", "look"]


class PresetIn(Schema):
    kind: Kind
    name: str = Field(min_length=1, max_length=200)
    content: Any


class PresetOut(Schema):
    id: int
    kind: Kind
    name: str
    content: Any


@router.get("projects/{project_id}/presets", response={200: list[PresetOut], 404: Problem})
def list_presets(request: HttpRequest, project_id: int) -> list[Preset]:
    rows = list(project_for(request.user, project_id).presets.order_by("kind", "name"))
    for row in rows:
        if row.kind == "steps":
            row.content = upgrade_steps(row.content, row.version)
    return rows


@router.post("projects/{project_id}/presets", response={200: PresetOut, 404: Problem, 422: Problem})
def save_preset(request: HttpRequest, project_id: int, body: PresetIn) -> Preset:
    """Keep something under a name; what had that name before is replaced."""
    project = project_for(request.user, project_id)
    content = _checked(body)
    row, _ = Preset.objects.update_or_create(
        project=project,
        kind=body.kind,
        name=body.name.strip(),
        defaults={"content": content, "version": VERSION},
    )
    announce(project.pk, "comps", row.pk)
    return row


@router.delete("presets/{preset_id}", response={204: None, 404: Problem})
def delete_preset(request: HttpRequest, preset_id: int) -> Status[None]:
    row = row_for(request.user, Preset, preset_id, "preset")
    row.delete()
    announce(row.project_id, "comps", preset_id)
    return Status(204, None)


def _checked(body: PresetIn) -> Any:
    if body.kind == "look":
        if not isinstance(body.content, dict):
            raise ValueRefused("A look is kept as an object.", where=body.name)
        return body.content
    try:
        steps = _STEPS.validate_python(body.content)
    except ValidationError as error:
        first = error.errors()[0]
        raise ValueRefused(
            f"These steps are not valid: {first['msg']}.",
            advice="Keep steps of this version.",
            where=body.name,
        ) from error
    for step in steps:
        if isinstance(step, ForeignStep):
            raise step.refused()
    return [s.model_dump(mode="json") for s in steps]
