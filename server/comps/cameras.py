"""Cameras of rendered sets, by the keys that comp documents name them with."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache

from elements.resolve import number_of
from neatveil.comp import Comp as Document
from neatveil.comp import SceneCamera as Camera
from neatveil.errors import DocumentRefused

from .models import SceneCamera


def camera_key(number: int) -> str:
    return f"v{number}"


def cameras_used(document: Document, project_id: int) -> dict[str, Camera]:
    """The cameras that a document names, under their keys; without those that the project has not."""
    numbers = [n for k in document.cameras_named if (n := number_of(k, "v")) is not None]
    if not numbers:
        return {}
    rows = SceneCamera.objects.filter(project_id=project_id, pk__in=numbers).only("pk", "changed")
    return {camera_key(row.pk): known_camera(row.pk, row.changed) for row in rows}


def check_cameras(project_id: int, document: Document) -> None:
    """`DocumentRefused` where a layer stands before a camera that the project has not."""
    if not document.cameras_named:
        return
    known = {
        camera_key(n) for n in SceneCamera.objects.filter(project_id=project_id).values_list("pk", flat=True)
    }
    for layer in document.all_layers:
        if layer.card is not None and layer.card.camera and layer.card.camera not in known:
            raise DocumentRefused(
                f"Layer {layer.name} is seen by a camera that this project does not have.",
                advice="Choose another rendered set's camera for it.", where=layer.name,
            )  # fmt: skip
    if document.camera and document.camera not in known:
        raise DocumentRefused(
            "The comp's camera is not in this project.", advice="Choose another rendered set's camera.",
            where=document.name,
        )  # fmt: skip


@lru_cache(maxsize=64)
def known_camera(number: int, changed: datetime) -> Camera:
    """Read once for every change: one of a thousand frames takes longer than a draft may."""
    return Camera.model_validate(SceneCamera.objects.get(pk=number).camera)
