"""Layers onto a pile, in strips of rows on the pool's threads."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..merge import merge_planes, operator_named
from ..numeric.pool import for_strips
from ..numeric.scratch import scratch_planes
from ..picture import RGBA, Box, Plane, PremultipliedPicture
from ..steps import PointStep
from ..steps.points import Points, Where
from .placing import Placing, placed_rows

Planes = Mapping[str, Plane]


@dataclass(frozen=True)
class Sheet:
    """One layer, ready to be laid: its picture, how it lies, what is left to do and how it meets."""

    source: PremultipliedPicture
    how: Placing
    steps: Sequence[PointStep]
    level: int
    operator: str
    opacity: float

    def touches(self, rows: Box) -> bool:
        """Whether the sheet may change these pixels of the comp."""
        if operator_named(self.operator).touches_outside:
            return True
        return not self._reach.intersect(rows).empty

    @cached_property
    def _points(self) -> Points:
        return Points(self.steps)

    @cached_property
    def _reach(self) -> Box:
        return self.how.covers(self.source.data_window)

    def columns(self, rows: Box) -> Box:
        """The part of these rows that is to be merged: only what the sheet reaches where that will do."""
        if self.operator != "over":
            return rows
        return Box(max(rows.x0, self._reach.x0), rows.y0, min(rows.x1, self._reach.x1), rows.y1)

    def front(self, rows: Box) -> dict[str, Plane]:
        """R, G, B, A of these pixels, after steps; views of the source where nothing is changed."""
        shape = rows.height, rows.width
        front = self._direct(rows)
        if front is None:
            held = scratch_planes("placed", rows.height * rows.width)
            front = {n: p.reshape(shape) for n, p in zip(RGBA, held, strict=True)}
            placed_rows(self.source, self.how, rows, front)
        if self.steps:
            done = self._points.apply([front[n].reshape(-1) for n in RGBA], self._where(rows))
            front = {n: p.reshape(shape) for n, p in zip(RGBA, done, strict=True)}
        return front

    def _where(self, rows: Box) -> Where:
        """The rows as pixels of the layer's own picture: only asked where it is moved by whole pixels."""
        dx, dy = self.how.whole_shift or (0, 0)
        return Where(rows.shift(-dx, -dy), self.source.display_window, self.level)

    def _direct(self, rows: Box) -> dict[str, Plane] | None:
        """Views of the source where its rows lie exactly on the comp's, so that nothing is copied."""
        shift = self.how.whole_shift
        if shift is None:
            return None
        moved = self.source.data_window.shift(*shift)
        if moved.x0 != rows.x0 or moved.x1 != rows.x1 or not moved.contains(rows):
            return None
        return {n: self.source[n][rows.y0 - moved.y0 : rows.y1 - moved.y0] for n in RGBA}


#: Takes R, G, B, A of rows y0 to y1 of the area; they are only lent.
Taker = Callable[[int, int, Planes], None]


def lay(sheets: list[Sheet], base: Planes | None, area: Box, take: Taker) -> None:
    """Lay sheets, back to front, over ``base`` (None: nothing is there), strip by strip.

    ``take`` is given each strip when it is finished, on several threads: the whole need never be
    in memory. Planes are R, G, B, A of ``area``, premultiplied; ``base`` is not changed.
    """

    def strip(y0: int, y1: int) -> None:
        rows = Box(area.x0, area.y0 + y0, area.x1, area.y0 + y1)
        shape = rows.height, rows.width
        held = scratch_planes("pile", rows.height * rows.width)
        target = {n: p.reshape(shape) for n, p in zip(RGBA, held, strict=True)}
        pile: Planes | None = None if base is None else {n: base[n][y0:y1] for n in RGBA}
        for sheet in sheets:
            if not sheet.touches(rows):
                continue
            part = sheet.columns(rows)
            front = sheet.front(part)
            if pile is None:
                if part == rows and _is_itself(sheet, front):
                    pile = front
                    continue
                pile = _emptied(target)
            x0, x1 = part.x0 - rows.x0, part.x1 - rows.x0
            if pile is not target:
                _copy_beside(pile, target, x0, x1)
            merge_planes(sheet.operator, front, pile, target, sheet.opacity, x0)
            pile = target
        take(y0, y1, _emptied(target) if pile is None else pile)

    for_strips(area.height, area.width, strip)


def into(out: Planes) -> Taker:
    """A taker that gathers the strips in whole planes."""

    def take(y0: int, y1: int, planes: Planes) -> None:
        for n in RGBA:
            target = out[n][y0:y1]
            if not np.may_share_memory(target, planes[n]):  # laid in place, and nothing touched it
                target[:] = planes[n]

    return take


def _is_itself(sheet: Sheet, front: Planes) -> bool:
    """Whether the sheet over nothing is its source's own rows, which stay when scratch is used again."""
    over = sheet.operator == "over" and sheet.opacity == 1
    return over and all(np.may_share_memory(front[n], sheet.source[n]) for n in RGBA)


def _copy_beside(pile: Planes, target: Planes, x0: int, x1: int) -> None:
    """The columns left of x0 and from x1 on."""
    for n in RGBA:
        target[n][:, :x0] = pile[n][:, :x0]
        target[n][:, x1:] = pile[n][:, x1:]


def _emptied(planes: dict[str, Plane]) -> dict[str, Plane]:
    for n in RGBA:
        planes[n][:] = 0
    return planes
