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
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..colour.working import from_working
from ..comp import Comp, Element
from ..comp.layers import AnyLayer, MatteOwner
from ..comp.tree import path_to
from ..errors import NeatVeilError
from ..io.decoder import Decoder
from ..numeric import blocks
from ..numeric.camera import Matrix
from ..picture import Box, Plane, PremultipliedPicture, StoredPicture
from ..steps.extra_channels import whole_picture
from .blended import BlendedFrames
from .cache import ByteCache
from .compositing import StripSink, composite_layers, sink_from_working
from .content import ElementFrame, RenderContext
from .groups import render_comp, render_group
from .lasting import LastingPlanes
from .passing import PASSING_BYTES, PassingPictures
from .placement import frame_box, placed_whole
from .plan import RenderPlan, only_some, plan_render
from .prepare import composite, prepare_layers
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


class Lying(NamedTuple):
    """A layer as it is at a frame, the size of its picture, and ``(3, 3)`` from the comp's points to it."""

    layer: AnyLayer
    size: tuple[int, int]
    matrix: Matrix


class Evaluator:
    """Evaluates comps through one decoder and one bounded cache; safe from many threads.

    Parameters
    ----------
    decoder : where frames come from.
    memory_bytes : bound of all pictures, those that are kept and those in work; a frame beyond 4K needs more.
    lasting : where edges that were found in pictures are kept beyond this process; nowhere without it.
    """

    def __init__(
        self, decoder: Decoder, memory_bytes: int = 2 << 30, lasting: LastingPlanes | None = None
    ) -> None:
        cache_bytes = memory_bytes - min(memory_bytes * 11 // 16, WORK_BYTES)
        backdrops = min(cache_bytes // 8, BACKDROP_BYTES)
        passing = min(cache_bytes // 16, PASSING_BYTES)
        stored = cache_bytes // 8
        self.decoder = decoder
        self._layer_bytes = min(LAYER_BYTES, memory_bytes // 6)
        self._results: ByteCache[PremultipliedPicture] = ByteCache(
            cache_bytes - backdrops - passing - stored, lambda p: p.bytes
        )
        self._backdrops: ByteCache[PremultipliedPicture] = ByteCache(backdrops, lambda p: p.bytes)
        self._passing = PassingPictures(passing)
        self._sources = Sources(decoder, self._results, stored, lasting)
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
    ) -> tuple[PremultipliedPicture, Matrix]:
        """What a matte of the layer sees under a name, in full size, and how the comp's points lie in it.

        In the comp's working space.

        Parameters
        ----------
        source : ``layer:`` and an id, an element's key, or empty for the layer itself; after its steps.
        extra_channels : channels of its element that are wanted besides.

        Returns
        -------
        picture, matrix : 3 x 3, from corner coordinates of the comp to those of the picture.
        """
        names = self._names(comp, frame, layer)
        return names.picture_under_point(source, tuple(extra_channels))

    def data_under_point(
        self, comp: Comp, frame: int, layer: str, channel: str, point: tuple[float, float]
    ) -> float | None:
        """An extra channel of what a layer shows at a point of the comp, as it is stored; None beside it."""
        found = self.data_under_points(comp, frame, layer, channel, np.array([point]))[0]
        return None if np.isnan(found) else float(found)

    def data_under_points(
        self, comp: Comp, frame: int, layer: str, channel: str, points: NDArray[np.float64]
    ) -> Plane:
        """The same at points ``(N, 2)``: ``(N,)``, NaN beside it."""
        names = self._names(comp, frame, layer)
        _, content = names.found("")
        u, v, w = names.matrix_to(content.size()) @ np.column_stack([points, np.ones(len(points))]).T
        ahead = w > 0
        divisor = np.where(ahead, w, 1)
        plane = names.extra_planes(content, 0, (channel,), mixed=False)
        window = plane.data_window
        x = np.floor(u / divisor).astype(np.int64) - window.x0
        y = np.floor(v / divisor).astype(np.int64) - window.y0
        inside = ahead & (x >= 0) & (y >= 0) & (x < window.width) & (y < window.height)
        found = np.full(len(points), np.nan, np.float32)
        found[inside] = plane[channel][y[inside], x[inside]]
        return found

    def data_in_frame(self, comp: Comp, frame: int, layer: str, channel: str) -> Plane:
        """``(H, W)`` of the comp: an extra channel of what a layer shows, as it is stored, where it lies.

        Of the nearest pixel, never mixed; 0 where the layer does not lie, and at a frame at which it shows
        nothing.

        Raises
        ------
        NameUnknown : nothing that it shows has the channel.
        """
        names, window = self._names(comp, frame, layer), frame_box(comp, 0)
        content = names.content(names.own)
        if content is None:
            return np.zeros((window.height, window.width), np.float32)
        stored = whole_picture(names.extra_planes(content, 0, (channel,), mixed=False))
        matrix = names.matrix_to(content.size())
        return placed_whole(stored, matrix, 0, window, "nearest")[channel]

    def lying(self, comp: Comp, frame: int, layer: str) -> Lying:
        """Where a layer lies at a frame of the comp.

        Raises
        ------
        NeatVeilError : its element is not there, or the camera that it stands before.
        """
        names = self._names(comp, frame, layer)
        _, content = names.found("")
        return Lying(names.own, content.size(), names.matrix_to(content.size()))

    def frame_under_point(self, comp: Comp, frame: int, layer: str) -> tuple[Element, int, Matrix] | None:
        """The element and its frame that a layer shows, and the matrix as of `named`; of two the nearest.

        None where the layer ends blank, or is a group.
        """
        names = self._names(comp, frame, layer)
        content = names.content(names.own)
        if isinstance(content, BlendedFrames):
            content = content.nearest
        if not isinstance(content, ElementFrame):
            return None
        return content.element, content.number, names.matrix_to(content.size())

    def matte(self, comp: Comp, frame: int, layer: str, owner: MatteOwner, level: int) -> Plane:
        """``(H, W)`` 0..1 over a layer's picture: its matte, or that of a step or of its alpha.

        Raises
        ------
        ValueRefused : there is no such matte.
        NeatVeilError : it cannot be computed.
        """
        names = self._names(comp, frame, layer)
        return names.whole_matte(owner, level)

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
        failed : collects the errors of layers that cannot be computed; they are left out of the picture. And
            what layers do without.

        Raises
        ------
        NeatVeilError : with the layer's name in ``where`` when a layer cannot be computed.
        """
        context = only_some(self._context(comp, cancelled, failed), upto, only)
        plan = plan_render(context, frame, level, region)
        start, backdrop = self._resume(plan)
        if start < len(plan.rows) or backdrop is None:
            backdrop = composite(plan, start, len(plan.rows), backdrop)
            if plan.small and keep and not plan.context.failures:
                self._results.put(plan.keys[-1], backdrop)
        return from_working(backdrop, plan.working)

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
        context = only_some(self._context(comp, cancelled, failed), upto, only)
        plan = plan_render(context, frame, level, region)
        start, backdrop = self._resume(plan)
        sink = sink_from_working(sink, plan.working)
        last = len(plan.rows)
        if plan.small:
            batch = len(plan.batches(plan.rows[start:])[-1])
            if start + batch == last:
                self._passing.draw(plan, start, backdrop, sink)
                return
            last -= batch  # what fits one batch goes straight to the sink
        if last > start:
            start, backdrop = last, composite(plan, start, last, backdrop)
        layers = prepare_layers(plan, plan.rows[start:])
        base = None if backdrop is None else backdrop.planes
        composite_layers(layers, base, plan.area, sink)

    def _context(
        self, comp: Comp, cancelled: Callable[[], bool] | None = None,
        failed: list[NeatVeilError] | None = None,
    ) -> RenderContext:  # fmt: skip
        return RenderContext(
            self._sources, comp, self._layer_bytes, render_group, render_comp, cancelled, failed
        )

    def _names(self, comp: Comp, frame: int, layer: str) -> ResolvedSources:
        """What a layer's steps and mattes name when the comp is at a frame."""
        outermost = path_to(comp.layers, comp.layer(layer).id)[0]
        context = self._context(comp)
        names = ResolvedSources(context, frame, frame, context.layer_at(outermost, frame))
        # of a repeated layer the first copy is meant: its matte and its steps are those of all
        found = names.at_layer(layer)
        first = context.layer_at(comp.layer(layer), found.frame)
        if first.repeat is None:
            return found
        return replace(found, own=first.model_copy(update={"repeat": None}))

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
            start, backdrop = changed, composite(plan, start, changed, backdrop)
            if not plan.context.failures:
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
