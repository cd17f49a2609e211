"""What is rendered of a scene as a picture of its own: everything, or one layer after another."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import SceneRefused
from .model import Scene
from .object_roles import ObjectRoles, below
from .setup import RenderSetup


@dataclass(frozen=True)
class RenderLayer:
    """One picture a frame. ``layer`` is empty where everything is in it."""

    layer: str
    casting: ObjectRoles


def render_layers_of(scene: Scene, setup: RenderSetup) -> list[RenderLayer]:
    """The render layers of a set-up, from the nearest to the farthest.

    Raises `SceneRefused` for a name that no node of the scene has.
    """
    _check_names(scene, setup)
    catchers = frozenset(setup.shadow_catchers)
    if not setup.layers:
        return [RenderLayer("", ObjectRoles(None, catchers=catchers))]
    if setup.flattened:
        shown = frozenset(o for x in setup.layers if x.render for o in x.objects)
        return [RenderLayer("", ObjectRoles(shown, catchers=catchers))]
    rendered = [x for x in setup.layers if x.render]
    shapes = {x.name: below(scene, x.objects) for x in rendered}
    found = []
    counted: frozenset[str] = frozenset()
    for layer in rendered:
        # every other shape, not those of nearer layers alone: which is in front is a matter of each sample
        others = frozenset(n for name, there in shapes.items() if name != layer.name for n in there)
        held = others if setup.holdout == "nearer" else frozenset()
        found.append(RenderLayer(layer.name, ObjectRoles(frozenset(layer.objects), held, catchers, counted)))
        if setup.holdout == "nearer":
            counted |= shapes[layer.name]
    if not found:
        raise SceneRefused("None of the layers is rendered.", advice="Switch one on.", where=scene.name)
    return found


def _check_names(scene: Scene, setup: RenderSetup) -> None:
    there = {n.name for n in scene.nodes}
    asked = {*setup.shadow_catchers, *setup.numbers, *(o for x in setup.layers for o in x.objects)}
    missing = sorted(asked - there)
    if missing:
        raise SceneRefused(
            f"{scene.name} has no object {missing[0]}.",
            advice=f"Its objects are {', '.join(sorted(n.name for n in scene.nodes if n.meshes)[:20])}.",
            where=missing[0],
        )
