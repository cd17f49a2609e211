"""What a person points at in the picture: a layer, or how far away something is."""

from __future__ import annotations

from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest, HttpResponse
from neatveil.comp import Comp as Document
from neatveil.view.focus import distance_under, distances_over
from neatveil.view.picking import layer_under
from ninja import Field, Router, Schema

from comps.asking import document_for

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


class DistancesIn(MatteAsk):
    """``columns``, ``rows``: of the cells that the comp's frame is parted into."""

    step: int = Field(ge=0)
    columns: int = Field(ge=1, le=1024)
    rows: int = Field(ge=1, le=1024)


@router.post("comps/{comp_id}/distances", response={404: Problem, 422: Problem})
def distances_pointed_at(request: HttpRequest, comp_id: int, body: DistancesIn) -> HttpResponse:
    """As little-endian float32, row by row from the top; 0 where nothing is: for a pointer in motion."""
    document = body.drawn(request, comp_id)
    size = body.columns, body.rows
    with drawing("", 0):
        found = distances_over(evaluator(), document, body.frame, body.layer, body.step, size)
    return HttpResponse(found.astype("<f4").tobytes(), content_type="application/octet-stream")


class PickIn(Schema):
    """A comp, perhaps as a draft, at a frame; ``point``: of the comp; ``level``: that is looked at."""

    document: Document | None = None
    frame: int = 1
    point: tuple[float, float]
    level: int = Field(1, ge=0, le=8)


class PickOut(Schema):
    layer: str | None


@router.post("comps/{comp_id}/pick", response={200: PickOut, 404: Problem, 422: Problem})
def layer_pointed_at(request: HttpRequest, comp_id: int, body: PickIn) -> PickOut:
    """The nearest layer, or group, that covers the point."""
    document = document_for(request.user, comp_id, body.document, {})
    with drawing("", 0):
        return PickOut(layer=layer_under(evaluator(), document, body.frame, body.point, body.level))
