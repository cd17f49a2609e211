"""The evaluator: document + frame + region + level -> picture.

Layers are laid one after another onto one accumulator, each in strips of rows on the pool's
threads, so that memory does not grow with the number of layers. For pictures of viewer size every
prefix of the pile is kept, so that a change of one layer redraws only what lies above it.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Mapping
from pathlib import Path

import numpy as np

from ..alpha import read
from ..comp import Comp, Element, Layer, element_frame, layer_shows
from ..errors import Cancelled, DocumentRefused, NeatVeilError
from ..io.decoder import Decoder
from ..io.sequences import Pattern
from ..merge import merge_planes, operator_named
from ..numeric.pool import for_strips
from ..picture import RGBA, Box, Plane, PremultipliedPicture, StoredPicture, new_planes
from ..steps import Step
from .cache import ByteCache, content_key
from .halve import halve
from .placing import Placing, placed_rows, placing

#: Prefixes of the pile are kept for pictures up to this many bytes.
KEEP_PREFIX_BYTES = 40 * 1024 * 1024

_scratch = threading.local()


class Evaluator:
    """Evaluates comps through one decoder and one bounded cache; safe from many threads.

    Parameters
    ----------
    decoder : where frames come from.
    cache_bytes : bound of everything kept.
    """

    def __init__(self, decoder: Decoder, cache_bytes: int = 2 << 30) -> None:
        self.decoder = decoder
        self.cache: ByteCache[PremultipliedPicture] = ByteCache(cache_bytes, lambda p: p.bytes)
        # Files as stored, for the values instrument: a few frames are enough.
        self._stored: ByteCache[StoredPicture] = ByteCache(cache_bytes // 8, lambda p: p.bytes)
        self._sizes: dict[str, tuple[int, int]] = {}
        self._sizes_lock = threading.Lock()

    # --- sources ---------------------------------------------------------------------------

    def source_key(self, element: Element, frame: int) -> str:
        """Changes with the file's bytes (time and size), the frame, the reading and the encoding."""
        return content_key(
            element.file, _stamp(element, frame), frame,
            element.reading.model_dump(), element.encoding,
        )  # fmt: skip

    def source(self, element: Element, frame: int, level: int = 0) -> PremultipliedPicture:
        """One frame of an element: scene-linear, premultiplied over black, halved ``level`` times."""
        key = self.source_key(element, frame)

        def make() -> PremultipliedPicture:
            if level == 0:
                picture = read(self.decoder.read(element.file, frame), element.reading, element.encoding)
                with self._sizes_lock:
                    self._sizes[key] = (picture.display_window.width, picture.display_window.height)
                return picture
            larger = self.cache.peek(content_key(key, level - 1))
            # A full-size frame made only to be halved is not kept: it would push out many small ones.
            return halve(larger or self._made(element, frame, level - 1))

        return self.cache.get(content_key(key, level), make)

    def stored(self, element: Element, frame: int) -> StoredPicture:
        """One frame of an element as its file holds it."""
        key = content_key(element.file, _stamp(element, frame), frame)
        return self._stored.get(key, lambda: self.decoder.read(element.file, frame))

    def _made(self, element: Element, frame: int, level: int) -> PremultipliedPicture:
        picture = self.source(element, frame, level)
        if level == 0:
            self.cache.drop(content_key(self.source_key(element, frame), 0))
        return picture

    # --- layers ----------------------------------------------------------------------------

    def _layer_key(self, layer: Layer, element: Element, frame: int) -> str:
        steps = [s.model_dump() for s in layer.steps if s.on]
        return content_key(
            self.source_key(element, frame), steps,
            layer.place.model_dump(), layer.operator, layer.opacity,
        )  # fmt: skip

    def _stepped(self, layer: Layer, element: Element, frame: int, level: int) -> PremultipliedPicture:
        """The layer's source after its steps, at one level."""
        steps = [s for s in layer.steps if s.on]
        if not steps:
            return self.source(element, frame, level)
        key = content_key(self.source_key(element, frame), [s.model_dump() for s in steps], level)

        def make() -> PremultipliedPicture:
            source = self.source(element, frame, level)
            planes = new_planes(RGBA, *source["A"].shape)
            for n in RGBA:
                planes[n][:] = source[n]
            apply_steps(steps, planes)
            return source.with_planes(planes)

        return self.cache.get(key, make)

    # --- the comp --------------------------------------------------------------------------

    def picture(
        self,
        comp: Comp,
        frame: int,
        *,
        level: int = 0,
        region: Box | None = None,
        upto: str | None = None,
        only: str | None = None,
        cancelled: Callable[[], bool] | None = None,
    ) -> PremultipliedPicture:
        """The comp at a frame.

        Parameters
        ----------
        level : 0 is full size; each level halves it.
        region : pixels at that level; None is the whole frame.
        upto : the pile up to and including this layer.
        only : this layer alone.
        cancelled : asked between layers; evaluation ends with `Cancelled` once it says yes.

        Raises
        ------
        NeatVeilError : with the layer's name in ``where`` when a layer cannot be computed.
        """
        frame_box = Box.sized(comp.width, comp.height).halved(level)
        area = frame_box if region is None else region.intersect(frame_box)
        layers = _chosen(comp, frame, upto, only)
        keys, sources = [content_key("empty", area.as_list(), level, comp.width, comp.height)], []
        for layer in layers:
            element = comp.elements.get(layer.element)
            if element is None:
                raise DocumentRefused(
                    f"Layer {layer.name}: its element is not in the project any more.",
                    advice="Choose another element for it or remove the layer.",
                    where=layer.name,
                )
            number = element_frame(comp, layer, element, frame)
            if number is None:
                continue
            sources.append((layer, element, number))
            keys.append(content_key(keys[-1], self._layer_key(layer, element, number)))
        keep = area.width * area.height * 16 <= KEEP_PREFIX_BYTES
        start, pile = self._longest_prefix(keys, area, frame_box, keep)
        for index in range(start, len(sources)):
            if cancelled is not None and cancelled():
                raise Cancelled("Evaluation was cancelled.")
            pile = self._lay(comp, pile, *sources[index], level, in_place=not keep)
            if keep:
                self.cache.put(keys[index + 1], pile)
        return pile

    def _longest_prefix(
        self, keys: list[str], area: Box, frame_box: Box, keep: bool
    ) -> tuple[int, PremultipliedPicture]:
        if keep:
            for index in range(len(keys) - 1, 0, -1):
                kept = self.cache.peek(keys[index])
                if kept is not None:
                    return index, kept
        planes = new_planes(RGBA, area.height, area.width, zero=True)
        return 0, PremultipliedPicture(planes, area, frame_box)

    def _lay(
        self, comp: Comp, pile: PremultipliedPicture, layer: Layer, element: Element,
        frame: int, level: int, *, in_place: bool,
    ) -> PremultipliedPicture:  # fmt: skip
        """One layer onto the pile."""
        try:
            how, source, steps = self._prepared(comp, layer, element, frame, level)
        except NeatVeilError as error:
            error.message = f"Layer {layer.name}: {error.message}"
            error.where = layer.name
            raise
        area = pile.data_window
        out = pile.planes if in_place else new_planes(RGBA, area.height, area.width)
        reach = how.covers(source.data_window)
        everywhere = operator_named(layer.operator).touches_outside

        def strip(y0: int, y1: int) -> None:
            touched = everywhere or (reach.y0 < area.y0 + y1 and reach.y1 > area.y0 + y0)
            if not touched:
                if not in_place:
                    for n in RGBA:
                        out[n][y0:y1] = pile[n][y0:y1]
                return
            rows = Box(area.x0, area.y0 + y0, area.x1, area.y0 + y1)
            front = _direct(source, how, rows) if not steps else None
            if front is None:
                front = _strip_planes(rows)
                placed_rows(source, how, rows, front)
                apply_steps_flat(steps, front)
            back = {n: pile[n][y0:y1] for n in RGBA}
            target = {n: out[n][y0:y1] for n in RGBA}
            merge_planes(layer.operator, front, back, target, layer.opacity, 0, y1 - y0)

        for_strips(area.height, area.width, strip)
        return PremultipliedPicture(out, area, pile.display_window)

    def _prepared(
        self, comp: Comp, layer: Layer, element: Element, frame: int, level: int
    ) -> tuple[Placing, PremultipliedPicture, list[Step]]:
        """How the layer lies, the source it takes, and the steps left for the strips.

        Where nothing is resampled the steps are done strip by strip; else before resampling.
        """
        full = self.source(element, frame, level) if level else self.source(element, frame)
        size = self._full_size(element, frame, full, level)
        how = placing(layer.place, (comp.width, comp.height), size, level)
        steps = [s for s in layer.steps if s.on]
        if how.whole_shift is not None and how.source_level == level:
            return how, full, steps
        return how, self._stepped(layer, element, frame, how.source_level), []

    def _full_size(
        self, element: Element, frame: int, seen: PremultipliedPicture, level: int
    ) -> tuple[int, int]:
        key = self.source_key(element, frame)
        with self._sizes_lock:
            known = self._sizes.get(key)
        if known is None:
            window = (seen if level == 0 else self.source(element, frame)).display_window
            known = (window.width, window.height)
        return known


def apply_steps(steps: list[Step], planes: dict[str, Plane]) -> None:
    """Steps on whole premultiplied planes, strip by strip, in place."""
    height, width = planes["A"].shape

    def strip(y0: int, y1: int) -> None:
        apply_steps_flat(steps, {n: planes[n][y0:y1] for n in RGBA})

    for_strips(height, width, strip)


def apply_steps_flat(steps: list[Step], planes: Mapping[str, Plane]) -> None:
    """Steps on contiguous premultiplied planes, in place, in this thread."""
    flat = [planes[n].reshape(-1) for n in RGBA]
    for step in steps:
        step.apply(*flat)


def _chosen(comp: Comp, frame: int, upto: str | None, only: str | None) -> list[Layer]:
    if only is not None:
        return [comp.layer(only).model_copy(update={"operator": "over", "opacity": 1.0})]
    layers = list(comp.layers)
    if upto is not None:
        layers = layers[: layers.index(comp.layer(upto)) + 1]
    return [x for x in layers if layer_shows(comp, x, frame)]


def _direct(source: PremultipliedPicture, how: Placing, rows: Box) -> dict[str, Plane] | None:
    """Views of the source where its rows lie exactly on the comp's, so that nothing is copied."""
    shift = how.whole_shift
    if shift is None:
        return None
    moved = source.data_window.shift(*shift)
    if moved.x0 != rows.x0 or moved.x1 != rows.x1 or not moved.contains(rows):
        return None
    return {n: source[n][rows.y0 - moved.y0 : rows.y1 - moved.y0] for n in RGBA}


def _strip_planes(rows: Box) -> dict[str, Plane]:
    """This thread's own planes for one strip, used again and again."""
    size = rows.width * rows.height
    held = getattr(_scratch, "planes", None)
    if held is None or held[0].size < size:
        held = _scratch.planes = [np.empty(size, np.float32) for _ in RGBA]
    return {n: p[:size].reshape(rows.height, rows.width) for n, p in zip(RGBA, held, strict=True)}


def _stamp(element: Element, frame: int) -> list[int]:
    path = Pattern.parse(element.file).path(frame) if Pattern.is_pattern(element.file) else Path(element.file)
    try:
        stat = path.stat()
    except OSError:
        return []
    return [stat.st_mtime_ns, stat.st_size]
