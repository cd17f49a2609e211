"""The render plan of one picture: the layers that show, and a key for the composite after each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..colour.working import LIGHT
from ..comp import layer_shows
from ..comp.tree import alone, up_to
from ..picture import Box
from .cache import content_key
from .content import ElementFrame, LayerRow, RenderContext
from .named_sources import layer_rows
from .placement import frame_box

#: Results, and composites below the layer that changes, are kept for pictures up to this many bytes.
KEEP_BYTES = 40 * 1024 * 1024


@dataclass(frozen=True, slots=True)
class RenderPlan:
    """What to composite where, at a level.

    ``root``: the frame of the comp; ``number``: the frame of what is drawn, the comp or a group. ``area``:
    the pixels that are drawn, of ``frame`` or beyond. ``keys``: of the empty backdrop, and of the composite
    after each row.
    """

    context: RenderContext
    root: int
    number: int
    level: int
    area: Box
    frame: Box
    rows: Sequence[LayerRow]
    keys: list[str]

    @property
    def working(self) -> str:
        """The working space that its composite is in: data alone is in none."""
        rows = self.rows
        data = bool(rows) and all(isinstance(r.content, ElementFrame) and r.content.is_data for r in rows)
        return LIGHT if data else self.context.comp.working

    @property
    def small(self) -> bool:
        return self.area.width * self.area.height * 16 <= KEEP_BYTES

    def batches(self, rows: Sequence[LayerRow]) -> list[Sequence[LayerRow]]:
        """Rows that are composited together: as many as fit the memory for layers, and one at least."""
        found: list[list[LayerRow]] = [[]]
        held = 0
        for row in rows:
            needed = self._held_by(row)
            if found[-1] and held + needed > self.context.layer_bytes:
                found.append([])
                held = 0
            found[-1].append(row)
            held += needed
        return list(found)

    def _held_by(self, row: LayerRow) -> int:
        """Bytes of a layer's planes, and as many again while it is resampled; not more than its own size."""
        area = max(1, self.area.width * self.area.height)
        known = row.content.known_size()  # what was never read is not read for this, one layer after another
        own = area if known is None else (known[0] >> self.level) * (known[1] >> self.level)
        return 32 * min(max(1, own), area)


def plan_render(context: RenderContext, frame: int, level: int, region: Box | None) -> RenderPlan:
    """The plan of the context's comp at a frame; ``region``: pixels at that level, None for all of them."""
    comp = context.comp
    whole = frame_box(comp, level)
    area = whole if region is None else region.intersect(whole)
    shown = [x for x in comp.layers if layer_shows(comp, x, frame)]
    rows = layer_rows(context, shown, frame, frame)
    keys = [content_key("empty", area.as_list(), level, comp.width, comp.height, comp.working)]
    for row in rows:
        keys.append(content_key(keys[-1], row.key))
    return RenderPlan(context, frame, frame, level, area, whole, rows, keys)


def only_some(context: RenderContext, upto: str | None, only: str | None) -> RenderContext:
    """The context with the layers up to one, or with one alone."""
    comp = whole = context.comp
    for name, chosen in ((upto, up_to), (only, alone)):
        if name is not None:
            if comp.layer(name).of_beneath:  # refused here where it is not there
                chosen = up_to  # alone it has nothing to show
            comp = comp.model_copy(update={"layers": chosen(comp.layers, name)})
    return context if comp is whole else replace(context, comp=comp, whole=whole)
