"""Which comps use an element, and what lies behind it there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from config.engine import evaluator
from elements.models import Element
from elements.resolve import key, keys_used
from neatveil.comp import Group, Layer
from neatveil.comp.layers import AnyLayer, MadeLayer
from neatveil.comp.loading import parse_comp
from neatveil.comp.tree import walk
from neatveil.errors import NeatVeilError
from neatveil.made.text import TextMade
from neatveil.picture import RGBA, Box, PremultipliedPicture, new_planes

from comps.inner_comps import with_all_sources
from comps.models import Comp


class InComps:
    """Elements as layers of comps, or taken by their steps and mattes."""

    def users(self, element: Element) -> list[str]:
        comps = Comp.objects.filter(project_id=element.project_id)
        either = {key(element), element.name}
        return [c.name for c in comps if either & _named(c.document)]

    def used(self, project_id: int) -> set[str]:
        comps = Comp.objects.filter(project_id=project_id)
        return {name for comp in comps for name in _named(comp.document)}

    def working_in(self, project_id: int, configuration: str) -> list[str]:
        comps = Comp.everything.filter(
            project_id=project_id, document__working__startswith=f"{configuration}/"
        )
        return list(comps.values_list("name", flat=True))

    def set_in(self, project_id: int, font: str) -> list[str]:
        found = [
            c for c in Comp.everything.filter(project_id=project_id)
            if any(f.startswith(font) for f in _fonts(c.document))
        ]  # fmt: skip
        # one that was deleted comes back whole for a while
        return [c.name if c.deleted is None else f"{c.name} (a deleted comp)" for c in found]

    def lies_before(self, element: Element) -> bool:
        return _layer_behind(element) is not None

    def behind(self, element: Element, frame: int, box: Box) -> PremultipliedPicture | None:
        """Of the newest comp in which something lies behind it; nothing where that cannot be drawn."""
        found = _layer_behind(element)
        if found is None:
            return None
        comp, below = found
        document = parse_comp(comp.document, comp.name, lenient=True)
        try:
            full = with_all_sources(document, comp.project_id)
            number = min(max(frame, full.first), full.last)
            return evaluator().picture(full, number, upto=below, region=box, keep=False)
        except NeatVeilError:
            return PremultipliedPicture(new_planes(RGBA, box.height, box.width, zero=True), box)


def _named(document: dict[str, Any]) -> set[str]:
    """Keys of the elements that layers are of, or that their steps or mattes take; and what rows say.

    A row names an element by its name: whatever text is one counts, so that none is taken for unused.
    """
    comp = parse_comp(document, lenient=True)
    cells = {cell for row in comp.rows for cell in row.values() if isinstance(cell, str)}
    return {*keys_used(comp), *cells}


def _fonts(document: dict[str, Any]) -> set[str]:
    """What texts are set in."""
    layers = walk(parse_comp(document, lenient=True).layers)
    made = (layer.made for layer in layers if isinstance(layer, MadeLayer))
    return {text.font for text in made if isinstance(text, TextMade)}


def _layer_behind(element: Element) -> tuple[Comp, str] | None:
    """A comp in which a layer lies behind one of the element, and that layer's id."""
    for comp in Comp.objects.filter(project_id=element.project_id).order_by("-pk"):
        found = _behind(parse_comp(comp.document, comp.name, lenient=True).layers, key(element))
        if found:
            return comp, found
    return None


def _behind(layers: Sequence[AnyLayer], element: str) -> str:
    """The id of the layer behind the first one that shows an element, in the same group or further out."""
    behind = ""
    for layer in layers:
        if isinstance(layer, Layer) and layer.element == element:
            return behind
        if isinstance(layer, Group):
            inside = _behind(layer.layers, element)
            if inside or any(isinstance(x, Layer) and x.element == element for x in walk(layer.layers)):
                return inside or behind
        behind = layer.id
    return ""
