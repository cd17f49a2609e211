"""How far away something is that a person points at, for a step that goes by depth."""

from __future__ import annotations

from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest
from neatveil.view.focus import distance_under
from ninja import Field, Router, Schema

from .measuring import MatteAsk

router = Router()


class DistanceIn(MatteAsk):
    """``step``: its place among the layer's; ``point``: of the comp."""

    step: int = Field(ge=0)
    point: tuple[float, float]


class DistanceOut(Schema):
    distance: float


@router.post("comps/{comp_id}/distance", response={200: DistanceOut, 404: Problem, 422: Problem})
def distance_pointed_at(request: HttpRequest, comp_id: int, body: DistanceIn) -> DistanceOut:
    """In the units of the depth that the step goes by."""
    document = body.drawn(request, comp_id)
    with drawing("", 0):
        found = distance_under(evaluator(), document, body.frame, body.layer, body.step, body.point)
    return DistanceOut(distance=found)
