"""Forms of delivery that a project, or a person, keeps under names."""

from __future__ import annotations

from typing import Any

from config.errors import Problem
from config.events import announce
from django.db.models import Q
from django.http import HttpRequest
from neatveil.delivery import DeliveryForm, Take
from neatveil.delivery.formats import Purpose
from ninja import Field, Router, Schema, Status
from projects.access import is_member, not_there, project_for

from deliveries.models import DeliveryPreset

router = Router()

#: Parts of a take that say how something goes out, not what.
_HOW = {"size", "width", "height", "filter", "rate", "timing", "start", "timecode"}


class DeliveryPresetIn(Schema):
    name: str = Field(min_length=1, max_length=200)
    own: bool = Field(False, description="The person's own, in all projects, instead of this project's.")
    purpose: Purpose
    form: DeliveryForm
    take: Take = Take()
    server: str = Field("", max_length=900, description="One of the server's folders; empty: the project's.")
    folder: str = Field(max_length=200)
    file_name: str = Field(max_length=200)


class DeliveryPresetOut(DeliveryPresetIn):
    id: int


@router.get("projects/{project_id}/delivery-presets", response={200: list[DeliveryPresetOut], 404: Problem})
def list_delivery_presets(request: HttpRequest, project_id: int) -> list[DeliveryPresetOut]:
    """The project's, and the person's own."""
    project = project_for(request.user, project_id)
    rows = DeliveryPreset.objects.filter(Q(project=project) | Q(person_id=request.user.pk))
    return [_out(row) for row in rows]


@router.post(
    "projects/{project_id}/delivery-presets", response={200: DeliveryPresetOut, 404: Problem, 422: Problem}
)
def keep_delivery_preset(request: HttpRequest, project_id: int, body: DeliveryPresetIn) -> DeliveryPresetOut:
    """Keep a form under a name; what had that name before is replaced."""
    project = project_for(request.user, project_id)
    whose: dict[str, Any] = {"person_id": request.user.pk} if body.own else {"project": project}
    row, _ = DeliveryPreset.objects.update_or_create(
        **whose, name=body.name.strip(),
        defaults={
            "purpose": body.purpose, "form": body.form.model_dump(mode="json"),
            "take": body.take.model_dump(mode="json", include=_HOW), "server": body.server,
            "folder": body.folder, "file_name": body.file_name,
        },
    )  # fmt: skip
    announce(project.pk, "jobs", row.pk)
    return _out(row)


@router.delete("delivery-presets/{preset_id}", response={204: None, 404: Problem})
def forget_delivery_preset(request: HttpRequest, preset_id: int) -> Status[None]:
    row = DeliveryPreset.objects.filter(pk=preset_id).first()
    if row is None or not (
        row.person_id == request.user.pk
        if row.project_id is None
        else is_member(request.user, row.project_id)
    ):
        raise not_there("preset")
    row.delete()
    return Status(204, None)


def _out(row: DeliveryPreset) -> DeliveryPresetOut:
    return DeliveryPresetOut(
        id=row.pk, name=row.name, own=row.project_id is None, purpose=row.purpose,  # type: ignore[arg-type]
        form=DeliveryForm.model_validate(row.form), take=Take.model_validate(row.take), server=row.server,
        folder=row.folder,
        file_name=row.file_name,
    )  # fmt: skip
