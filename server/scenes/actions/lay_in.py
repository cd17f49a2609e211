"""Laying a render into a comp: its layers in depth order, the farthest first."""

from __future__ import annotations

from typing import Any

from comps.actions.change_comp import change_comp
from comps.models import Comp
from config.errors import Conflict
from elements.resolve import key
from neatveil.comp import Layer
from neatveil.comp.loading import parse_comp

from scenes.models import Render


def lay_in(render: Render, comp: Comp, person: Any) -> Comp:
    """One change of the comp, which can be undone there; `Conflict` where there is nothing to lay in."""
    parts = [p for p in render.parts.select_related("element") if p.beauty]
    if not parts:
        raise Conflict(
            f"{render.name} has no beauty to lay into a comp.",
            advice="Render the beauty pass, or lay its elements in one by one.",
            where=render.name,
        )
    document = parse_comp(comp.document, comp.name)
    taken = {x.id for x in document.all_layers}
    layers = list(document.layers)
    for part in parts:
        base, number = f"render{part.element_id}", 1
        while (name := base if number == 1 else f"{base}-{number}") in taken:
            number += 1
        taken.add(name)
        layers.append(Layer(id=name, name=part.element.name[:200], element=key(part.element)))
    changed = document.model_copy(update={"layers": tuple(layers)})
    return change_comp(comp.pk, changed, comp.revision, person, f"laid in {render.name}")
