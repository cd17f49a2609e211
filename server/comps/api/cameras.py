"""Cameras of rendered sets that layers may stand before, and where a layer lies."""

from __future__ import annotations

import numpy as np
from config.engine import evaluator
from config.errors import Problem
from django.http import HttpRequest
from ninja import Router, Schema
from projects.access import project_for

from comps.cameras import camera_key, known_camera

from .measuring import MatteAsk

router = Router()


class CameraRow(Schema):
    """``stamp``: another text once the set was rendered again."""

    key: str
    name: str
    width: int
    height: int
    rate: str
    first: int
    last: int
    lights: list[str]
    stamp: str


class PlaceOut(Schema):
    """``matrix``: 3 x 3, row by row, from corner coordinates of the layer's picture to those of the comp."""

    width: int
    height: int
    matrix: list[float]


@router.get("projects/{project_id}/cameras", response={200: list[CameraRow], 404: Problem})
def list_cameras(request: HttpRequest, project_id: int) -> list[CameraRow]:
    rows = []
    for row in project_for(request.user, project_id).cameras.all():
        camera = known_camera(row.pk, row.changed)
        rows.append(
            CameraRow(
                key=camera_key(row.pk), name=row.name, width=camera.width, height=camera.height,
                rate=str(camera.rate), first=camera.first, last=camera.last,
                lights=[x.name for x in camera.lights], stamp=row.changed.isoformat(),
            )
        )  # fmt: skip
    return rows


@router.post("comps/{comp_id}/place", response={200: PlaceOut, 404: Problem, 422: Problem})
def place_of_layer(request: HttpRequest, comp_id: int, body: MatteAsk) -> PlaceOut:
    """Where a layer is seen, standing in a scene or not, with the groups that hold it."""
    lying = evaluator().lying(body.drawn(request, comp_id), body.frame, body.layer)
    forth = np.linalg.inv(lying.matrix)
    return PlaceOut(width=lying.size[0], height=lying.size[1], matrix=[float(v) for v in forth.ravel()])
