"""The evaluator: document + frame + region + level -> picture.

Layers are laid in strips of rows on the pool's threads, so many in one go as may be held at once, so that
memory does not grow with the number of layers. Pictures of viewer size are laid from the layer on that
changed: the pile below it is kept.
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
from ..steps.doing import head_of
from .cache import ByteCache
from .laying import Sheet, Taker, into, lay
from .placing import Placing, placing
from .plan import Plan, Unit, Used, planned, told
from .references import References
from .sources import Sources

#: Bytes of piles kept below a layer that changes.
PILE_BYTES = 256 * 1024 * 1024
#: Bytes of the layers that are laid in one go, at most: less where the memory is short.
SHEET_BYTES = 256 * 1024 * 1024
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
        piles = min(cache_bytes // 8, PILE_BYTES)
        stored = cache_bytes // 8
        self.decoder = decoder
        self._sheet_bytes = min(SHEET_BYTES, memory_bytes // 6)
        self._results: ByteCache[PremultipliedPicture] = ByteCache(
            cache_bytes - piles - stored, lambda p: p.bytes
        )
        self._piles: ByteCache[PremultipliedPicture] = ByteCache(piles, lambda p: p.bytes)
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
        self, comp: Comp, frame: int, layer: str, source: str, further: Sequence[str] = ()
    ) -> tuple[PremultipliedPicture, NDArray[np.float64]]:
        """What a matte of the layer sees under a name, in full size, and how the comp's points lie in it.

        Parameters
        ----------
        source : ``layer:`` and an id, an element's key, or empty for the layer itself; after its steps.
        further : channels of its element that are wanted besides.

        Returns
        -------
        picture, matrix : 2 x 3, from corner coordinates of the comp to those of the picture.
        """
        names = References(self._sources, comp, frame, comp.layer(layer).at(frame))
        return names.seen_under(source, tuple(further))

    def matte(self, comp: Comp, frame: int, layer: str, step: int | None, level: int) -> Plane:
        """``(H, W)`` 0..1 of a layer's matte, or of the one a step of it acts through, over its picture.

        Raises
        ------
        ValueRefused : there is no such matte.
        NeatVeilError : it cannot be computed.
        """
        names = References(self._sources, comp, frame, comp.layer(layer).at(frame))
        return names.matte_alone(step, level)

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
        upto : the pile up to and including this layer.
        only : this layer alone.
        keep : whether a picture of viewer size is likely to be asked for again.
        cancelled : asked between layers; evaluation ends with `Cancelled` once it says yes.
        failed : takes the errors of layers that cannot be computed; the others are laid without them.

        Raises
        ------
        NeatVeilError : with the layer's name in ``where`` when a layer cannot be computed.
        """
        plan = planned(
            self._sources, comp, frame, level, region, upto, only, cancelled, failed, self._sheet_bytes
        )
        start, pile = self._begun(plan)
        if start < len(plan.used) or pile is None:
            pile = self._gathered(plan, start, len(plan.used), pile)
            if plan.small and keep and not failed:
                self._results.put(plan.keys[-1], pile)
        return pile

    def draw(
        self,
        comp: Comp,
        frame: int,
        take: Taker,
        *,
        level: int = 0,
        region: Box | None = None,
        upto: str | None = None,
        only: str | None = None,
        cancelled: Callable[[], bool] | None = None,
        failed: list[NeatVeilError] | None = None,
    ) -> None:
        """As `picture`, but strip by strip to a taker, and the result is not kept.

        For what passes, as while something is dragged. ``take`` gets rows of the region's part
        that lies inside the `frame_box`.
        """
        plan = planned(
            self._sources, comp, frame, level, region, upto, only, cancelled, failed, self._sheet_bytes
        )
        start, pile = self._begun(plan)
        last = max(start, len(plan.used) - plan.at_once) if plan.small else len(plan.used)
        if last > start:
            start, pile = last, self._gathered(plan, start, last, pile)
        sheets = self._sheets(plan, plan.used[start:])
        lay(sheets, None if pile is None else pile.planes, plan.area, take)

    def _begun(self, plan: Plan) -> tuple[int, PremultipliedPicture | None]:
        """How many layers lie already, and their pile.

        The pile below the layer from which on they differ from the last ones asked for in this way
        is made and kept: whoever changes a layer goes on changing it.
        """
        if not plan.small:
            return 0, None
        changed = self._first_changed(plan.keys)
        start, pile = self._longest_kept(plan.keys)
        if changed > start:
            start, pile = changed, self._gathered(plan, start, changed, pile)
            if not plan.failed:
                self._piles.put(plan.keys[changed], pile)
        return start, pile

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
            kept = self._results.peek(keys[index]) or self._piles.peek(keys[index])
            if kept is not None:
                return index, kept
        return 0, None

    def _gathered(
        self, plan: Plan, start: int, stop: int, pile: PremultipliedPicture | None
    ) -> PremultipliedPicture:
        """Layers ``start`` to ``stop`` onto a pile, which is not changed."""
        out = new_planes(RGBA, plan.area.height, plan.area.width)
        base = None if pile is None else pile.planes
        for at in range(start, max(stop, start + 1), plan.at_once):
            rows = plan.used[at : min(stop, at + plan.at_once)]
            lay(self._sheets(plan, rows), base, plan.area, into(out))
            base = out
        return PremultipliedPicture(out, plan.area, plan.frame)

    def _sheets(self, plan: Plan, rows: list[Unit]) -> list[Sheet]:
        """Side by side: whole layers on a thread each wait less for each other than strips of one do."""
        found: dict[int, Sheet] = {}
        caller = threading.get_ident()

        def make(i: int) -> None:
            # asked in the caller's thread alone: a database connection, say, belongs to one thread
            if plan.cancelled is not None and threading.get_ident() == caller and plan.cancelled():
                raise Cancelled("Evaluation was cancelled.")
            unit = rows[i]
            if unit.group:
                found[i] = self._group(plan, unit)
                return
            try:
                found[i] = self._sheet(plan, unit.rows[0])
            except NeatVeilError as error:
                told(error, unit.rows[0][0], plan.failed)

        for_each(range(len(rows)), make, coarse=True)
        return [found[i] for i in sorted(found)]

    def _group(self, plan: Plan, unit: Unit) -> Sheet:
        """Its layers laid over nothing, as one sheet that lies on the comp's own pixels."""
        alone = replace(plan, used=[Unit("", [row]) for row in unit.rows])
        pile = self._gathered(alone, 0, len(alone.used), None)
        how = Placing(np.array([[1.0, 0, 0], [0, 1, 0]]), plan.level, "nearest")
        return Sheet(pile, how, [], plan.level, "over", 1.0)

    def _sheet(self, plan: Plan, row: Used) -> Sheet:
        """A layer's picture and how it lies.

        Where nothing is resampled the steps are done strip by strip; else before resampling.
        """
        layer, element, frame, key = row
        comp, level = plan.comp, plan.level
        size = self._sources.full_size(element, frame, key)
        how = placing(layer.place, (comp.width, comp.height), size, level)
        # the placing is a matrix into pixels of its own level, which need not be the comp's
        picture = self._sources.picture(element, frame, how.source_level, key)
        steps = [s for s in layer.steps if s.on]
        strips = how.whole_shift is not None and how.source_level == level
        names = References(self._sources, comp, plan.number, layer, plan.memo)
        first = head_of(steps) if strips and not layer.cut else len(steps)
        if layer.cut:
            picture = names.picture(how.source_level, key=key, element=element, number=frame)
        elif first:
            # before it is placed, and kept; what is left is done strip by strip
            picture = self._sources.stepped(
                element, frame, how.source_level, key, steps[:first], plan.number, names
            )
        rest = [s for s in steps[first:] if isinstance(s, PointStep)]
        return Sheet(picture, how, rest, level, layer.operator, layer.opacity)
