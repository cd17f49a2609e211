"""Laying a render into a comp: one group, each pass as its kind is meant."""

from __future__ import annotations

from typing import Any

from comps.actions.add_comp import add_comp
from comps.actions.change_comp import change_comp
from comps.models import Comp
from config.errors import Conflict
from django.db import transaction
from elements.actions.parts import Carrying, carry
from elements.models import Element
from elements.resolve import key
from neatveil.comp import Comp as Document
from neatveil.comp.loading import parse_comp
from neatveil.errors import ValueRefused
from neatveil.scene.output import written_of
from neatveil.scene.pass_stack import RenderedElement, carried_channels, pass_stack
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.setup import parse_setup

from scenes.models import Render
from scenes.places import opened

from .keep_camera import key_of_camera


def lay_into_new(render: Render, person: Any) -> Comp:
    """A new comp of the render's size, rate and frames, with the render in it; raises as `lay_in`."""
    setup = parse_setup(render.document)
    size = {"width": setup.width, "height": setup.height, "rate": setup.rate}
    document = Document(name=render.name[:200], first=setup.first, last=setup.last, **size)
    with transaction.atomic():
        return lay_in(render, add_comp(render.project, document, person), person)


def lay_in(render: Render, comp: Comp, person: Any) -> Comp:
    """One change of the comp, which can be undone there; `Conflict` where there is nothing to lay in.

    A comp that knows no camera has the render's from then on.

    Data passes in files of their own become extra channels of the beauty. A draft is enlarged to the size
    that was ordered.
    """
    given = parse_setup(render.document)
    setup = given.effective()
    scale = given.draft.shrink if given.use == "draft" else 1
    elements = {p.name: p.element for p in render.parts.select_related("element")}
    rendered = _rendered(render, elements)
    by_key = {key(e): e for e in elements.values()}
    document = parse_comp(comp.document, comp.name)
    try:
        taken = [x.id for x in document.all_layers]
        group = pass_stack(setup, rendered, render.name[:200], taken, scale)
    except ValueRefused as error:
        raise Conflict(error.message, advice=error.advice, where=render.name) from error
    with transaction.atomic():
        for beauty, channels in carried_channels(rendered, lambda r: _channels(by_key[r.key])).items():
            _carry(by_key[beauty], channels, by_key, person)
        seen_by = document.camera or key_of_camera(render)
        changed = document.model_copy(update={"layers": (*document.layers, group), "camera": seen_by})
        return change_comp(comp.pk, changed, comp.revision, person, f"laid in {render.name}")


def _rendered(render: Render, elements: dict[str, Element]) -> list[RenderedElement]:
    """Its sequences, the farthest layer first: those that became elements."""
    scene, setup = opened(render.scene), parse_setup(render.document).effective()
    rows = [w for s in reversed(render_layers_of(scene, setup)) for w in written_of(scene, setup, s)]
    return [RenderedElement(w, key(elements[w.name]), w.name) for w in rows if w.name in elements]


def _channels(element: Element) -> list[str]:
    return [c["name"] for c in (element.facts or {}).get("channels", [])]


def _carry(beauty: Element, channels: Any, by_key: dict[str, Element], person: Any) -> None:
    """What it does not carry yet."""
    there = {p["name"] for p in beauty.parts}
    for row in (c for c in channels if c.name not in there):
        source = by_key[row.source.key]
        beauty = carry(beauty, source, person, [Carrying(row.name, row.channel, data=True)])
