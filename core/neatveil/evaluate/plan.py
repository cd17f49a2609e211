"""What of a comp is to be laid for one picture: layers that show, in groups, with a key for every pile."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

from ..comp import Comp, Element, Layer, element_frame, layer_shows
from ..errors import Cancelled, NeatVeilError
from ..picture import Box
from ..steps.doing import steps_key
from .cache import content_key
from .names import Memo, Names
from .sources import Sources

#: Results, and piles below the layer that changes, are kept for pictures up to this many bytes.
KEEP_BYTES = 40 * 1024 * 1024
#: A layer that shows, its element, the element's frame, and that frame's key.
Used = tuple[Layer, Element, int, str]


class Unit(NamedTuple):
    """What is laid as one sheet: a layer, or the neighbours of a group."""

    group: str
    rows: list[Used]


@dataclass(frozen=True, slots=True)
class Plan:
    """What is to be laid where. ``keys`` has one for nothing and one for the pile after each layer."""

    comp: Comp
    number: int
    level: int
    area: Box
    frame: Box
    used: list[Unit]
    keys: list[str]
    cancelled: Callable[[], bool] | None
    failed: list[NeatVeilError] | None
    memo: Memo
    sheet_bytes: int

    @property
    def small(self) -> bool:
        return self.area.width * self.area.height * 16 <= KEEP_BYTES

    @property
    def at_once(self) -> int:
        """How many layers are laid in one go: a layer holds its planes, and again for resampling."""
        return max(1, self.sheet_bytes // max(1, self.area.width * self.area.height * 32))


def planned(
    sources: Sources, comp: Comp, frame: int, level: int, region: Box | None, upto: str | None,
    only: str | None, cancelled: Callable[[], bool] | None, failed: list[NeatVeilError] | None,
    sheet_bytes: int,
) -> Plan:  # fmt: skip
    """What of a comp is to be laid; parameters as of `Evaluator.picture`, ``sheet_bytes`` as of the plan."""
    whole = frame_box(comp, level)
    area = whole if region is None else region.intersect(whole)
    used: list[Unit] = []
    memo: Memo = {}
    keys = [content_key("empty", area.as_list(), level, comp.width, comp.height)]
    for drawn in _chosen(comp, frame, upto, only):
        layer = drawn.at(frame)
        try:
            found = _one_used(sources, comp, layer, frame)
            if found is not None:
                names = Names(sources, comp, frame, layer, memo)
                key = content_key(
                    keys[-1], _layer_key(layer, found[-1], frame), names.key(layer.steps),
                    layer.cut and names.matte_key(layer.cut),
                )  # fmt: skip
        except NeatVeilError as error:
            told(error, layer, failed)
            continue
        if found is None:
            continue
        if layer.group and only is None and used and used[-1].group == layer.group:
            used[-1].rows.append(found)
            keys[-1] = content_key(key, layer.group)
        else:
            used.append(Unit(layer.group if only is None else "", [found]))
            keys.append(content_key(key, layer.group) if layer.group else key)
    return Plan(comp, frame, level, area, whole, used, keys, cancelled, failed, memo, sheet_bytes)


def _one_used(sources: Sources, comp: Comp, layer: Layer, frame: int) -> Used | None:
    element = comp.element(layer.element)
    number = element_frame(comp, layer, element, frame)
    return None if number is None else (layer, element, number, sources.key(element, number))


def frame_box(comp: Comp, level: int) -> Box:
    """The comp's whole frame in pixels of a level."""
    return Box.sized(comp.width, comp.height).halved(level)


def told(error: NeatVeilError, layer: Layer, failed: list[NeatVeilError] | None) -> None:
    """The error with the layer's name: into the list, or raised where there is none."""
    if isinstance(error, Cancelled):
        raise error
    if not error.message.startswith(f"Layer {layer.name}:"):
        error.message = f"Layer {layer.name}: {error.message}"
    error.where = layer.name
    if failed is None:
        raise error
    failed.append(error)


def _layer_key(layer: Layer, source_key: str, frame: int) -> str:
    steps = steps_key([s for s in layer.steps if s.on], frame)
    return content_key(source_key, steps, layer.place.model_dump_json(), layer.operator, layer.opacity)


def _chosen(comp: Comp, frame: int, upto: str | None, only: str | None) -> list[Layer]:
    if only is not None:
        return [comp.layer(only).model_copy(update={"operator": "over", "opacity": 1.0})]
    layers = list(comp.layers)
    if upto is not None:
        layers = layers[: layers.index(comp.layer(upto)) + 1]
    return [x for x in layers if layer_shows(comp, x, frame)]
