"""Which layer is seen at a point of the comp."""

from __future__ import annotations

from math import floor

from ..comp import Comp, layer_shows
from ..errors import NeatVeilError
from ..evaluate import Evaluator
from ..evaluate.placement import frame_box
from ..picture import Box

#: Alpha below which a layer is not what a person means.
SEEN = 0.05


def layer_under(
    evaluator: Evaluator, comp: Comp, frame: int, point: tuple[float, float], level: int
) -> str | None:
    """The nearest layer, or group, that covers a point.

    Parameters
    ----------
    point : of the comp, in pixels from its upper left corner.
    level : that is looked at; each one halves the size.

    Returns
    -------
    The layer's id; None where none covers it. What is locked, and what cannot be drawn, is passed over.
    """
    x, y = (floor(v * 2.0**-level) for v in point)
    pixel = Box(x, y, x + 1, y + 1)
    if not frame_box(comp, level).contains(pixel):
        return None
    for layer in reversed(comp.layers):
        if layer.locked or layer.of_beneath or not layer_shows(comp, layer, frame) or layer.opacity == 0:
            continue
        try:
            # the layer's own picture is what is kept; of the comp only this pixel is made
            seen = evaluator.picture(comp, frame, level=level, region=pixel, only=layer.id, keep=False)
        except NeatVeilError:
            continue
        if seen["A"][0, 0] >= SEEN:
            return layer.id
    return None
