"""How far away something is that is pointed at."""

from __future__ import annotations

from ..comp import Comp
from ..errors import ValueRefused
from ..evaluate import Evaluator
from ..steps.distance import NOWHERE, DistanceStep


def distance_under(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, step: int, point: tuple[float, float]
) -> float:
    """By the depth that a step of a layer goes by.

    Parameters
    ----------
    step : its place among the layer's steps.
    point : of the comp, in pixels from its upper left corner.

    Returns
    -------
    In the depth's own units.

    Raises
    ------
    ValueRefused
        The step goes by no depth, or nothing is there.
    """
    rows = evaluator.lying(comp, frame, layer).layer.steps
    own = rows[step] if 0 <= step < len(rows) else None
    if not isinstance(own, DistanceStep):
        raise ValueRefused("That step goes by no depth.", advice="Choose a step that has a focus.")
    value = evaluator.data_under_point(comp, frame, layer, own.depth, point)
    found = None if value is None else own.distance_of(value)
    if found is None or found >= NOWHERE:
        raise ValueRefused("Nothing is there that has a distance.", advice="Click on what the depth shows.")
    return found
