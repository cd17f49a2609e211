"""How far away something is that is pointed at, or may be while a pointer is dragged."""

from __future__ import annotations

import numpy as np

from ..comp import Comp
from ..errors import ValueRefused
from ..evaluate import Evaluator
from ..picture import Plane
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
    own = _step_of(evaluator, comp, frame, layer, step)
    value = evaluator.data_under_point(comp, frame, layer, own.depth, point)
    found = None if value is None else own.distance_of(value)
    if found is None or found >= NOWHERE:
        raise ValueRefused("Nothing is there that has a distance.", advice="Click on what the depth shows.")
    return found


def distances_over(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, step: int, size: tuple[int, int]
) -> Plane:
    """The same at the middles of the cells that the comp's frame is parted into.

    Parameters
    ----------
    size : columns and rows.

    Returns
    -------
    ``(rows, columns)``; 0 where nothing is that has a distance.

    Raises
    ------
    ValueRefused
        The step goes by no depth.
    """
    own = _step_of(evaluator, comp, frame, layer, step)
    across = (np.arange(size[0]) + 0.5) * comp.width / size[0]
    down = (np.arange(size[1]) + 0.5) * comp.height / size[1]
    points = np.stack(np.meshgrid(across, down), -1).reshape(-1, 2)
    values = evaluator.data_under_points(comp, frame, layer, own.depth, points)
    found = own.distances_of(values.reshape(size[1], size[0]))
    return np.where(np.isnan(values.reshape(found.shape)) | (found >= NOWHERE), np.float32(0), found)


def _step_of(evaluator: Evaluator, comp: Comp, frame: int, layer: str, step: int) -> DistanceStep:
    rows = evaluator.lying(comp, frame, layer).layer.steps
    own = rows[step] if 0 <= step < len(rows) else None
    if not isinstance(own, DistanceStep):
        raise ValueRefused("That step goes by no depth.", advice="Choose a step that has a focus.")
    return own
