"""Layers made ready to be composited, and composited in batches that fit the memory limit."""

from __future__ import annotations

import threading
from collections.abc import Sequence

from ..comp.layers import is_by_itself
from ..errors import Cancelled, NeatVeilError
from ..numeric.pool import for_each
from ..picture import RGBA, Plane, PremultipliedPicture, new_planes
from ..steps import PointStep
from ..steps.apply import head_of
from .compositing import PreparedLayer, composite_layers, sink_into
from .content import LayerRow, MadeContent
from .placement import placement_for
from .plan import RenderPlan
from .resolved_sources import ResolvedSources


def composite(
    plan: RenderPlan, start: int, stop: int, backdrop: PremultipliedPicture | None,
    alpha: Plane | None = None,
) -> PremultipliedPicture:  # fmt: skip
    """Rows ``start`` to ``stop`` over a backdrop, which is not changed.

    ``alpha``: as of `composite_layers`.
    """
    out = new_planes(RGBA, plan.area.height, plan.area.width)
    base = None if backdrop is None else backdrop.planes
    for rows in plan.batches(plan.rows[start:stop]):
        composite_layers(prepare_layers(plan, rows), base, plan.area, sink_into(out), alpha)
        base = out
    return PremultipliedPicture(out, plan.area, plan.frame)


def prepare_layers(plan: RenderPlan, rows: Sequence[LayerRow]) -> list[PreparedLayer]:
    """The layers, a thread each: whole layers wait less for one another than strips of one layer do."""
    found: dict[int, PreparedLayer] = {}
    caller = threading.get_ident()
    cancelled = plan.context.cancelled

    def make(i: int) -> None:
        # asked in the caller's thread alone: a database connection, say, belongs to one thread
        if cancelled is not None and threading.get_ident() == caller and cancelled():
            raise Cancelled("Evaluation was cancelled.")
        try:
            found[i] = prepare_layer(plan, rows[i])
        except NeatVeilError as error:
            plan.context.report(error, rows[i].layer)

    for_each(range(len(rows)), make, coarse=True)
    return [found[i] for i in sorted(found)]


def prepare_layer(plan: RenderPlan, row: LayerRow) -> PreparedLayer:
    """A layer's picture and its placement.

    The point steps at the end of the recipe wait for the strips where no resampling follows; all other
    steps are applied here.
    """
    layer, content, level = row.layer, row.content, plan.level
    comp = plan.context.comp
    # the placing is a matrix into pixels of its own level, which need not be the comp's
    steps = [s for s in layer.steps if s.on]

    def finest() -> int:
        if isinstance(content, MadeContent) and not steps and not layer.cut:
            return content.finest_bare()
        return content.finest() if is_by_itself(layer) else 0

    placement = placement_for(comp, layer, content.size(), level, finest)
    strips = placement.whole_shift is not None and placement.source_level == level
    names = ResolvedSources(plan.context, plan.root, plan.number, layer)
    first = head_of(steps) if strips and not layer.cut else len(steps)
    if layer.cut:
        picture = names.picture(placement.source_level, content)
    else:
        # applied to the whole picture, and kept; the rest are applied strip by strip
        sources = plan.context.sources
        picture = sources.stepped(content, placement.source_level, steps[:first], plan.number, names)
    rest = [s for s in steps[first:] if isinstance(s, PointStep)]
    # an adjustment is what lay beneath it, changed: laid over that its alpha would count twice
    operator = "copy" if layer.adjusts else layer.operator
    return PreparedLayer(picture, placement, rest, level, operator, layer.opacity)
