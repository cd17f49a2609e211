"""What passes while something is dragged: only what a change can reach is composited anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..merge import operator_named
from ..numeric.pool import for_strips
from ..picture import RGBA, Box, Plane, PremultipliedPicture, new_planes
from .cache import ByteCache
from .compositing import Planes, PreparedLayer, StripSink, composite_layers, sink_into
from .content import LayerRow
from .plan import RenderPlan
from .prepare import prepare_layers

#: Bytes of the pictures that pass: a few viewers', each of viewer size.
PASSING_BYTES = 64 << 20


@dataclass(frozen=True, slots=True)
class _Passed:
    """The last picture of its size, level and region, and what it was made of.

    ``reaches``: the pixels that each row may have changed; None for those that change all pixels, and
    for those beneath the first that was composited for it, whose reach was not asked.
    """

    working: str
    keys: list[str]
    reaches: list[Box | None]
    planes: dict[str, Plane]


class PassingPictures:
    """Draws a picture after another that differs from it in few layers, as each move of a hand asks for.

    The pixels that those layers do not reach, neither as they were nor as they are, are taken over.
    """

    def __init__(self, limit: int) -> None:
        self._kept: ByteCache[_Passed] = ByteCache(limit, lambda p: sum(x.nbytes for x in p.planes.values()))

    def draw(
        self, plan: RenderPlan, start: int, backdrop: PremultipliedPicture | None, sink: StripSink
    ) -> None:
        """Rows from ``start`` on over a backdrop, to a sink of whole rows of the plan's area.

        Light in the plan's working space, premultiplied.
        """
        rows, area = plan.rows[start:], plan.area
        layers = prepare_layers(plan, rows)
        base = None if backdrop is None else backdrop.planes
        if len(layers) < len(rows):  # some failed: nothing of it is kept
            composite_layers(layers, base, area, sink)
            return
        # taken out: whoever draws at the same moment starts from nothing
        last = self._kept.take(plan.keys[0])
        reaches = [*[None] * start, *(_reach(layer, row) for layer, row in zip(layers, rows, strict=True))]
        dirty = area if last is None else _changed(last, plan, reaches, start)
        planes = new_planes(RGBA, area.height, area.width) if last is None else last.planes
        if not dirty.empty:
            part = _part_of(planes, dirty, area)
            beneath = base if base is None or dirty == area else _copied(_part_of(base, dirty, area))
            composite_layers(layers, beneath, dirty, sink_into(part))
        for_strips(area.height, area.width, lambda y0, y1: sink(y0, y1, {n: planes[n][y0:y1] for n in RGBA}))
        if not plan.context.failures:
            made_of = [row.key for row in plan.rows]
            self._kept.put(plan.keys[0], _Passed(plan.working, made_of, reaches, planes))


def _reach(layer: PreparedLayer, row: LayerRow) -> Box | None:
    return None if operator_named(layer.operator).touches_outside else layer.reach


def _changed(last: _Passed, plan: RenderPlan, reaches: Sequence[Box | None], start: int) -> Box:
    """The part of the area that may differ from the last picture: all of it where that is not known."""
    if last.working != plan.working or len(last.keys) != len(plan.rows):
        return plan.area
    dirty = Box(0, 0, 0, 0)
    for index, (before, row) in enumerate(zip(last.keys, plan.rows, strict=True)):
        if before == row.key:
            continue
        was, now = last.reaches[index], reaches[index]
        if index < start or was is None or now is None:
            return plan.area
        for reach in (was.intersect(plan.area), now.intersect(plan.area)):
            if not reach.empty:
                dirty = reach if dirty.empty else dirty.around(reach)
    return dirty


def _part_of(planes: Planes, part: Box, area: Box) -> dict[str, Plane]:
    y0, x0 = part.y0 - area.y0, part.x0 - area.x0
    return {n: planes[n][y0 : y0 + part.height, x0 : x0 + part.width] for n in RGBA}


def _copied(planes: Planes) -> dict[str, Plane]:
    return {n: np.ascontiguousarray(planes[n]) for n in RGBA}
