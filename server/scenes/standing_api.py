"""Standing layers of comps in the scenes of rendered sets."""

from __future__ import annotations

from typing import Any

from comps.api.measuring import MatteAsk
from comps.cameras import cameras_used
from comps.models import Comp
from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest
from neatveil.view.standing import standing
from ninja import Field, Router
from projects.access import row_for

from .actions.keep_camera import what_camera_meets

router = Router(tags=["comps"])


class StandIn(MatteAsk):
    """``camera``: key of the one that sees it; ``point``: of the comp, where it is to stand."""

    camera: str = Field("", max_length=64)
    point: tuple[float, float] | None = None


@router.post("comps/{comp_id}/stand", response={200: dict[str, Any], 404: Problem, 422: Problem})
def stand_layer(request: HttpRequest, comp_id: int, body: StandIn) -> dict[str, Any]:
    """The card that a layer becomes, where the point meets the scene or where the layer is seen now."""
    comp = row_for(request.user, Comp, comp_id, "comp")
    drawn = body.drawn(request, comp_id)
    card = drawn.layer(body.layer).card
    key = (card.camera if card else body.camera) or drawn.camera
    asked = drawn.model_copy(update={"camera": key})
    document = asked.model_copy(update={"cameras": cameras_used(asked, comp.project_id)})
    with drawing("", 0):
        made = standing(
            evaluator(), document, body.frame, body.layer, body.camera, body.point, what_camera_meets(key)
        )
    return made.model_dump(mode="json")
