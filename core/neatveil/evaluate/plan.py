"""The render plan of one picture: the layers that show, and a key for the composite after each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

from ..comp import Comp, Element, Layer, element_frame, layer_shows
from ..errors import Cancelled, NeatVeilError
from ..picture import Box
from ..steps.apply import steps_key
from .cache import content_key
from .named_sources import Lookups, NamedSources
from .sources import Sources

#: Results, and composites below the layer that changes, are kept for pictures up to this many bytes.
KEEP_BYTES = 40 * 1024 * 1024
#: A layer that shows, its element, the element's frame, and that frame's key.
LayerFrame = tuple[Layer, Element, int, str]


class CompositeUnit(NamedTuple):
    """What is composited as one: a layer, or the neighbours of a group."""

    group: str
    rows: list[LayerFrame]


@dataclass(frozen=True, slots=True)
class RenderPlan:
    """What to composite where. ``keys``: of the empty backdrop, and of the composite after each unit."""

    comp: Comp
    number: int
    level: int
    area: Box
    frame: Box
    units: list[CompositeUnit]
    keys: list[str]
    cancelled: Callable[[], bool] | None
    failed: list[NeatVeilError] | None
    lookups: Lookups
    layer_bytes: int

    @property
    def small(self) -> bool:
        return self.area.width * self.area.height * 16 <= KEEP_BYTES

    @property
    def at_once(self) -> int:
        """How many layers fit one batch: each holds its planes, and as much again while it is resampled."""
        return max(1, self.layer_bytes // max(1, self.area.width * self.area.height * 32))


def plan_render(
    sources: Sources, comp: Comp, frame: int, level: int, region: Box | None, upto: str | None,
    only: str | None, cancelled: Callable[[], bool] | None, failed: list[NeatVeilError] | None,
    layer_bytes: int,
) -> RenderPlan:  # fmt: skip
    """The plan of one picture; parameters as of `Evaluator.picture`, ``layer_bytes`` as of the plan."""
    whole = frame_box(comp, level)
    area = whole if region is None else region.intersect(whole)
    units: list[CompositeUnit] = []
    lookups: Lookups = {}
    keys = [content_key("empty", area.as_list(), level, comp.width, comp.height)]
    for drawn in _chosen(comp, frame, upto, only):
        layer = drawn.at(frame)
        try:
            found = _layer_frame(sources, comp, layer, frame)
            if found is not None:
                names = NamedSources(sources, comp, frame, layer, lookups)
                key = content_key(
                    keys[-1], _layer_key(layer, found[-1], frame), names.key(layer.steps),
                    layer.cut and names.matte_key(layer.cut),
                )  # fmt: skip
        except NeatVeilError as error:
            report_failure(error, layer, failed)
            continue
        if found is None:
            continue
        if layer.group and only is None and units and units[-1].group == layer.group:
            units[-1].rows.append(found)
            keys[-1] = content_key(key, layer.group)
        else:
            units.append(CompositeUnit(layer.group if only is None else "", [found]))
            keys.append(content_key(key, layer.group) if layer.group else key)
    return RenderPlan(comp, frame, level, area, whole, units, keys, cancelled, failed, lookups, layer_bytes)


def _layer_frame(sources: Sources, comp: Comp, layer: Layer, frame: int) -> LayerFrame | None:
    element = comp.element(layer.element)
    number = element_frame(comp, layer, element, frame)
    return None if number is None else (layer, element, number, sources.key(element, number))


def frame_box(comp: Comp, level: int) -> Box:
    """The comp's whole frame in pixels of a level.

    Parameters
    ----------
    comp : the document.
    level : times that the size is halved.

    Returns
    -------
    A box from 0, 0 on; odd sizes are rounded up.

    Examples
    --------
    >>> frame_box(Comp(width=101, height=50), 1).width
    51
    """
    return Box.sized(comp.width, comp.height).halved(level)


def report_failure(error: NeatVeilError, layer: Layer, failed: list[NeatVeilError] | None) -> None:
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
    return content_key(source_key, steps, layer.transform.model_dump_json(), layer.operator, layer.opacity)


def _chosen(comp: Comp, frame: int, upto: str | None, only: str | None) -> list[Layer]:
    if only is not None:
        return [comp.layer(only).model_copy(update={"operator": "over", "opacity": 1.0})]
    layers = list(comp.layers)
    if upto is not None:
        layers = layers[: layers.index(comp.layer(upto)) + 1]
    return [x for x in layers if layer_shows(comp, x, frame)]
