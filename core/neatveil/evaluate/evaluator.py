"""The evaluator: document + frame + region + level -> picture.

The pool's threads composite the layers strip by strip, in batches that fit the memory limit, so that memory
does not grow with the number of layers. For pictures of viewer size the evaluator keeps the composite below
the layer that changed last and starts there.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import takewhile

import numpy as np
from numpy.typing import NDArray

from ..comp import Comp, Element
from ..errors import Cancelled, NeatVeilError
from ..io.decoder import Decoder
from ..numeric import blocks
from ..numeric.pool import for_each
from ..picture import RGBA, Box, Plane, PremultipliedPicture, StoredPicture, new_planes
from ..steps import PointStep
from ..steps.apply import head_of
from .cache import ByteCache
from .compositing import PreparedLayer, StripSink, composite_layers, sink_into
from .placement import Placement, placement_of
from .plan import CompositeUnit, LayerFrame, RenderPlan, plan_render, report_failure
from .resolved_sources import ResolvedSources
from .sources import Sources

#: Bytes of the composites kept below a layer that changes.
BACKDROP_BYTES = 256 * 1024 * 1024
#: Most bytes of the layers composited in one batch; less where memory is short.
LAYER_BYTES = 256 * 1024 * 1024
#: Bytes that one frame in work may take beside what is kept: measured at 4K, it is 380 MB; and the blocks
#: that wait to be used again.
WORK_BYTES = 448 * 1024 * 1024 + blocks.KEEP
#: How many kinds of asking (size, level, region) are remembered to see which layer changes.
CHAINS = 64


class Evaluator:
    """Evaluates comps through one decoder and one bounded cache; safe from many threads.

    Parameters
    ----------
    decoder : where frames come from.
    memory_bytes : bound of all pictures, those that are kept and those in work; a frame beyond 4K needs more.
    """

    def __init__(self, decoder: Decoder, memory_bytes: int = 2 << 30) -> None:
        cache_bytes = memory_bytes - min(memory_bytes * 11 // 16, WORK_BYTES)
        backdrops = min(cache_bytes // 8, BACKDROP_BYTES)
        stored = cache_bytes // 8
        self.decoder = decoder
        self._layer_bytes = min(LAYER_BYTES, memory_bytes // 6)
        self._results: ByteCache[PremultipliedPicture] = ByteCache(
            cache_bytes - backdrops - stored, lambda p: p.bytes
        )
        self._backdrops: ByteCache[PremultipliedPicture] = ByteCache(backdrops, lambda p: p.bytes)
        self._sources = Sources(decoder, self._results, stored)
        self._chains: OrderedDict[str, list[str]] = OrderedDict()
        self._chains_lock = threading.Lock()

    def source(self, element: Element, frame: int, level: int = 0) -> PremultipliedPicture:
        """One frame of an element: scene-linear, premultiplied over black, halved ``level`` times."""
        return self._sources.picture(element, frame, level)

    def stored(self, element: Element, frame: int, planes: list[str] | None = None) -> StoredPicture:
        """One frame of an element as its files hold it: R, G, B, A (or Y), or the named planes."""
        return self._sources.stored(element, frame, planes)

    def kept(
        self, element: Element, frame: int, level: int, what: list[object],
        make: Callable[[], PremultipliedPicture],
    ) -> PremultipliedPicture:  # fmt: skip
        """A view of an element's frame, halved ``level`` times; ``make`` gives it in full size.

        ``what`` says which view, so that the same one is not made twice.
        """
        return self._sources.view(element, frame, level, what, make)

    def named(
        self, comp: Comp, frame: int, layer: str, source: str, extra_channels: Sequence[str] = ()
    ) -> tuple[PremultipliedPicture, NDArray[np.float64]]:
        """What a matte of the layer sees under a name, in full size, and how the comp's points lie in it.

        Parameters
        ----------
        source : ``layer:`` and an id, an element's key, or empty for the layer itself; after its steps.
        extra_channels : channels of its element that are wanted besides.

        Returns
        -------
        picture, matrix : 2 x 3, from corner coordinates of the comp to those of the picture.
        """
        names = ResolvedSources(self._sources, comp, frame, comp.layer(layer).at(frame))
        return names.picture_under_point(source, tuple(extra_channels))

    def matte(self, comp: Comp, frame: int, layer: str, step: int | None, level: int) -> Plane:
        """``(H, W)`` 0..1 of a layer's matte, or of the one a step of it acts through, over its picture.

        Raises
        ------
        ValueRefused : there is no such matte.
        NeatVeilError : it cannot be computed.
        """
        names = ResolvedSources(self._sources, comp, frame, comp.layer(layer).at(frame))
        return names.whole_matte(step, level)

    def picture(
        self,
        comp: Comp,
        frame: int,
        *,
        level: int = 0,
        region: Box | None = None,
        upto: str | None = None,
        only: str | None = None,
        keep: bool = True,
        cancelled: Callable[[], bool] | None = None,
        failed: list[NeatVeilError] | None = None,
    ) -> PremultipliedPicture:
        """The comp at a frame.

        Parameters
        ----------
        level : 0 is full size; each level halves it.
        region : pixels at that level; None is the whole frame.
        upto : the composite up to and including this layer.
        only : this layer alone.
        keep : whether a picture of viewer size is likely to be asked for again.
        cancelled : asked between layers; evaluation ends with `Cancelled` once it says yes.
        failed : collects the errors of layers that cannot be computed; they are left out of the picture.

        Raises
        ------
        NeatVeilError : with the layer's name in ``where`` when a layer cannot be computed.
        """
        plan = plan_render(
            self._sources, comp, frame, level, region, upto, only, cancelled, failed, self._layer_bytes
        )
        start, backdrop = self._resume(plan)
        if start < len(plan.units) or backdrop is None:
            backdrop = self._composite(plan, start, len(plan.units), backdrop)
            if plan.small and keep and not failed:
                self._results.put(plan.keys[-1], backdrop)
        return backdrop

    def draw(
        self,
        comp: Comp,
        frame: int,
        sink: StripSink,
        *,
        level: int = 0,
        region: Box | None = None,
        upto: str | None = None,
        only: str | None = None,
        cancelled: Callable[[], bool] | None = None,
        failed: list[NeatVeilError] | None = None,
    ) -> None:
        """As `picture`, but strip by strip to a sink, and the result is not kept.

        For what passes, as while something is dragged. ``sink`` gets rows of the region's part
        that lies inside the `frame_box`.
        """
        plan = plan_render(
            self._sources, comp, frame, level, region, upto, only, cancelled, failed, self._layer_bytes
        )
        start, backdrop = self._resume(plan)
        last = max(start, len(plan.units) - plan.at_once) if plan.small else len(plan.units)
        if last > start:
            start, backdrop = last, self._composite(plan, start, last, backdrop)
        layers = self._prepare_layers(plan, plan.units[start:])
        composite_layers(layers, None if backdrop is None else backdrop.planes, plan.area, sink)

    def _resume(self, plan: RenderPlan) -> tuple[int, PremultipliedPicture | None]:
        """How many layers are composited already, and their composite.

        Compares the plan with the last one of the same size, level and region, and keeps the composite
        below the first layer that differs: whoever changes a layer goes on changing it.
        """
        if not plan.small:
            return 0, None
        changed = self._first_changed(plan.keys)
        start, backdrop = self._longest_kept(plan.keys)
        if changed > start:
            start, backdrop = changed, self._composite(plan, start, changed, backdrop)
            if not plan.failed:
                self._backdrops.put(plan.keys[changed], backdrop)
        return start, backdrop

    def _first_changed(self, keys: list[str]) -> int:
        with self._chains_lock:
            last = self._chains.pop(keys[0], [])
            self._chains[keys[0]] = keys
            if len(self._chains) > CHAINS:
                self._chains.popitem(last=False)
        alike = (a == b for a, b in zip(last[1:], keys[1:], strict=False))
        return sum(takewhile(bool, alike))

    def _longest_kept(self, keys: list[str]) -> tuple[int, PremultipliedPicture | None]:
        for index in range(len(keys) - 1, 0, -1):
            kept = self._results.peek(keys[index]) or self._backdrops.peek(keys[index])
            if kept is not None:
                return index, kept
        return 0, None

    def _composite(
        self, plan: RenderPlan, start: int, stop: int, backdrop: PremultipliedPicture | None
    ) -> PremultipliedPicture:
        """Layers ``start`` to ``stop`` over a backdrop, which is not changed."""
        out = new_planes(RGBA, plan.area.height, plan.area.width)
        base = None if backdrop is None else backdrop.planes
        for at in range(start, max(stop, start + 1), plan.at_once):
            rows = plan.units[at : min(stop, at + plan.at_once)]
            composite_layers(self._prepare_layers(plan, rows), base, plan.area, sink_into(out))
            base = out
        return PremultipliedPicture(out, plan.area, plan.frame)

    def _prepare_layers(self, plan: RenderPlan, rows: list[CompositeUnit]) -> list[PreparedLayer]:
        """The layers, a thread each: whole layers wait less for one another than strips of one layer do."""
        found: dict[int, PreparedLayer] = {}
        caller = threading.get_ident()

        def make(i: int) -> None:
            # asked in the caller's thread alone: a database connection, say, belongs to one thread
            if plan.cancelled is not None and threading.get_ident() == caller and plan.cancelled():
                raise Cancelled("Evaluation was cancelled.")
            unit = rows[i]
            if unit.group:
                found[i] = self._prepare_group(plan, unit)
                return
            try:
                found[i] = self._prepare_layer(plan, unit.rows[0])
            except NeatVeilError as error:
                report_failure(error, unit.rows[0][0], plan.failed)

        for_each(range(len(rows)), make, coarse=True)
        return [found[i] for i in sorted(found)]

    def _prepare_group(self, plan: RenderPlan, unit: CompositeUnit) -> PreparedLayer:
        """The group composited over nothing, as one layer on the comp's own pixels."""
        alone = replace(plan, units=[CompositeUnit("", [row]) for row in unit.rows])
        backdrop = self._composite(alone, 0, len(alone.units), None)
        placement = Placement(np.array([[1.0, 0, 0], [0, 1, 0]]), plan.level, "nearest")
        return PreparedLayer(backdrop, placement, [], plan.level, "over", 1.0)

    def _prepare_layer(self, plan: RenderPlan, row: LayerFrame) -> PreparedLayer:
        """A layer's picture and its placement.

        The point steps at the end of the recipe wait for the strips where no resampling follows; all other
        steps are applied here.
        """
        layer, element, frame, key = row
        comp, level = plan.comp, plan.level
        size = self._sources.full_size(element, frame, key)
        placement = placement_of(layer.transform, (comp.width, comp.height), size, level)
        # the placing is a matrix into pixels of its own level, which need not be the comp's
        picture = self._sources.picture(element, frame, placement.source_level, key)
        steps = [s for s in layer.steps if s.on]
        strips = placement.whole_shift is not None and placement.source_level == level
        names = ResolvedSources(self._sources, comp, plan.number, layer, plan.lookups)
        first = head_of(steps) if strips and not layer.cut else len(steps)
        if layer.cut:
            picture = names.picture(placement.source_level, key=key, element=element, number=frame)
        elif first:
            # applied to the whole picture, and kept; the rest are applied strip by strip
            picture = self._sources.stepped(
                element, frame, placement.source_level, key, steps[:first], plan.number, names
            )
        rest = [s for s in steps[first:] if isinstance(s, PointStep)]
        return PreparedLayer(picture, placement, rest, level, layer.operator, layer.opacity)
