"""Composite layers over a backdrop, strip by strip, on the threads of the pool."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..colour.working import LIGHT, planes_from_working
from ..merge import merge_planes, operator_named
from ..merge.inside import FUSED, Rows, inside_alpha, merge_inside
from ..numeric.pool import for_strips
from ..numeric.scratch import scratch_planes
from ..picture import RGBA, Box, Plane, PremultipliedPicture
from ..steps import PointStep
from ..steps.points import PointRun, StepRegion
from .placement import Placement, place_rows

Planes = Mapping[str, Plane]


@dataclass(frozen=True)
class PreparedLayer:
    """One layer, ready to be composited: its picture, placement, remaining steps and blend mode."""

    source: PremultipliedPicture
    placement: Placement
    steps: Sequence[PointStep]
    level: int
    operator: str
    opacity: float

    def touches(self, rows: Box) -> bool:
        """Whether the layer may change these pixels of the comp."""
        if operator_named(self.operator).touches_outside:
            return True
        return not self.reach.intersect(rows).empty

    @cached_property
    def _point_run(self) -> PointRun:
        return PointRun(self.steps)

    @cached_property
    def reach(self) -> Box:
        """The pixels of the comp that its picture can reach."""
        return self.placement.covers(self.source.data_window)

    def columns(self, rows: Box) -> Box:
        """The columns of these rows to merge: with ``over``, only those that the layer reaches."""
        if self.operator != "over":
            return rows
        return Box(max(rows.x0, self.reach.x0), rows.y0, min(rows.x1, self.reach.x1), rows.y1)

    def front(self, rows: Box) -> dict[str, Plane]:
        """R, G, B, A of these pixels after the steps; views of the source where no step changes it."""
        shape = rows.height, rows.width
        front = self._source_rows(rows)
        if front is None:
            scratch = scratch_planes("placed", rows.height * rows.width)
            front = {n: p.reshape(shape) for n, p in zip(RGBA, scratch, strict=True)}
            place_rows(self.source, self.placement, rows, front)
        if self.steps:
            stepped = self._point_run.apply([front[n].reshape(-1) for n in RGBA], self._step_region(rows))
            front = {n: p.reshape(shape) for n, p in zip(RGBA, stepped, strict=True)}
        return front

    def as_it_is(self, rows: Box) -> Box | None:
        """The part of these rows where its pixels are seen; None where they are resampled or stepped."""
        shift = self.placement.whole_shift
        if shift is None or self.steps:
            return None
        return self.source.data_window.shift(*shift).intersect(rows)

    @cached_property
    def planes(self) -> tuple[Plane, Plane, Plane, Plane]:
        r, g, b, a = (np.ascontiguousarray(self.source[n]) for n in RGBA)
        return r, g, b, a

    def _step_region(self, rows: Box) -> StepRegion:
        """These rows in the pixels of the layer's own picture. Only for layers moved by whole pixels."""
        dx, dy = self.placement.whole_shift or (0, 0)
        return StepRegion(rows.shift(-dx, -dy), self.source.display_window, self.level)

    def _source_rows(self, rows: Box) -> dict[str, Plane] | None:
        """Views of the source, without copying, where its rows coincide with the comp's; else None."""
        shift = self.placement.whole_shift
        if shift is None:
            return None
        moved = self.source.data_window.shift(*shift)
        if moved.x0 != rows.x0 or moved.x1 != rows.x1 or not moved.contains(rows):
            return None
        return {n: self.source[n][rows.y0 - moved.y0 : rows.y1 - moved.y0] for n in RGBA}


#: Receives R, G, B, A of rows y0 to y1 of the area. The planes are reused after it returns.
StripSink = Callable[[int, int, Planes], None]


def composite_layers(
    layers: list[PreparedLayer], base: Planes | None, area: Box, sink: StripSink, alpha: Plane | None = None
) -> None:
    """Composite layers, back to front, over ``base`` (None: over nothing), strip by strip.

    ``alpha``: of a group, over the area. The layers are then stacked inside it, as `merge.inside` says, and
    so is what ``base`` holds.

    Several threads call ``sink``, each with a strip as soon as it is finished, so the whole picture need
    never be in memory. Planes are R, G, B, A of ``area``, premultiplied; ``base`` is not changed.
    """

    def strip(y0: int, y1: int) -> None:
        rows = Box(area.x0, area.y0 + y0, area.x1, area.y0 + y1)
        shape = rows.height, rows.width
        scratch = scratch_planes("backdrop", rows.height * rows.width)
        target = {n: p.reshape(shape) for n, p in zip(RGBA, scratch, strict=True)}
        backdrop: Planes | None = None if base is None else {n: base[n][y0:y1] for n in RGBA}
        for layer in layers:
            if not layer.touches(rows):
                continue
            seen = layer.as_it_is(rows) if alpha is not None and layer.operator in FUSED else None
            if alpha is not None and seen is not None:
                if not seen.empty:
                    backdrop = _own_target(backdrop, target)
                    _merge_inside(layer, seen, target, rows, alpha, area)
                continue
            part = layer.columns(rows)
            front = layer.front(part)
            if alpha is not None:
                front = inside_alpha(front, alpha[y0:y1, part.x0 - area.x0 : part.x1 - area.x0])
            if backdrop is None:
                if part == rows and _is_own_picture(layer, front):
                    backdrop = front
                    continue
                backdrop = _cleared(target)
            x0, x1 = part.x0 - rows.x0, part.x1 - rows.x0
            if backdrop is not target:
                _copy_beside(backdrop, target, x0, x1)
            merge_planes(layer.operator, front, backdrop, target, layer.opacity, x0)
            backdrop = target
        sink(y0, y1, _cleared(target) if backdrop is None else backdrop)

    for_strips(area.height, area.width, strip)


def _own_target(backdrop: Planes | None, target: dict[str, Plane]) -> dict[str, Plane]:
    """The target, holding what the backdrop holds."""
    if backdrop is None:
        return _cleared(target)
    if backdrop is not target:
        for n in RGBA:
            target[n][:] = backdrop[n]
    return target


def _merge_inside(
    layer: PreparedLayer, seen: Box, target: Planes, rows: Box, alpha: Plane, area: Box
) -> None:
    """A layer's own pixels, moved by whole ones, inside an alpha; ``seen``: of the comp, within ``rows``."""
    dx, dy = layer.placement.whole_shift or (0, 0)
    window = layer.source.data_window
    front = Rows(layer.planes, seen.y0 - dy - window.y0, seen.x0 - dx - window.x0)
    onto = Rows(tuple(target[n] for n in RGBA), seen.y0 - rows.y0, seen.x0 - rows.x0)  # type: ignore[arg-type]
    merge_inside(
        layer.operator, front, onto, alpha[rows.y0 - area.y0 :], (seen.height, seen.width), layer.opacity
    )


def sink_into(out: Planes) -> StripSink:
    """A sink that writes the strips into whole planes."""

    def sink(y0: int, y1: int, planes: Planes) -> None:
        for n in RGBA:
            target = out[n][y0:y1]
            if not np.may_share_memory(target, planes[n]):  # composited in place, and no layer touched it
                target[:] = planes[n]

    return sink


def sink_from_working(sink: StripSink, working: str) -> StripSink:
    """A sink that gives another one light in BT.709's primaries."""
    if working == LIGHT:
        return sink
    return lambda y0, y1, planes: sink(y0, y1, {**planes, **planes_from_working(planes, working)})


def _is_own_picture(layer: PreparedLayer, front: Planes) -> bool:
    """Whether the layer over nothing is just its source's rows, which outlive the scratch planes."""
    over = layer.operator == "over" and layer.opacity == 1
    return over and all(np.may_share_memory(front[n], layer.source[n]) for n in RGBA)


def _copy_beside(backdrop: Planes, target: Planes, x0: int, x1: int) -> None:
    """The columns left of x0 and from x1 on."""
    for n in RGBA:
        target[n][:, :x0] = backdrop[n][:, :x0]
        target[n][:, x1:] = backdrop[n][:, x1:]


def _cleared(planes: dict[str, Plane]) -> dict[str, Plane]:
    for n in RGBA:
        planes[n][:] = 0
    return planes


def place_alpha(layer: PreparedLayer, area: Box) -> Plane:
    """``(H, W)`` of a layer's alpha over an area, 0 where it is not, whatever its blend mode and opacity."""
    out = np.zeros((area.height, area.width), np.float32)

    def strip(y0: int, y1: int) -> None:
        rows = Box(area.x0, area.y0 + y0, area.x1, area.y0 + y1)
        if not layer.reach.intersect(rows).empty:
            out[y0:y1] = layer.front(rows)["A"]

    for_strips(area.height, area.width, strip)
    return out
