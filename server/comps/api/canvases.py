"""Whether what is made here fits its canvas."""

from __future__ import annotations

from config.errors import Problem
from django.http import HttpRequest
from neatveil.comp.layers import MadeLayer
from neatveil.errors import ValueRefused
from ninja import Router, Schema

from .measuring import MatteAsk

router = Router()


class CanvasOut(Schema):
    """Pixels of the canvas; ``whole_width``, ``whole_height``: of the one that all of it fits on."""

    width: int
    height: int
    whole_width: int
    whole_height: int


@router.post("comps/{comp_id}/canvas", response={200: CanvasOut, 404: Problem, 422: Problem})
def canvas_of_layer(request: HttpRequest, comp_id: int, body: MatteAsk) -> CanvasOut:
    """The canvas of a layer made here, and the one that what it draws at the frame fits on."""
    document = body.drawn(request, comp_id)
    layer = document.layer(body.layer)
    if not isinstance(layer, MadeLayer):
        raise ValueRefused(f"Layer {layer.name} is not made here: it has no canvas.", where=layer.name)
    made, comp = layer.made.at(body.frame), (document.width, document.height)
    width, height = made.canvas_size(comp)
    whole_width, whole_height = made.whole_canvas_size(comp)
    return CanvasOut(width=width, height=height, whole_width=whole_width, whole_height=whole_height)
