"""The tree of a comp's layers: walking it, changing one layer of it, and seeing only some of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from .layers import AnyLayer, Group, GroupAlpha, sources_named

#: How deep groups may lie in one another.
DEPTH = 16


def walk(layers: Iterable[AnyLayer]) -> Iterator[AnyLayer]:
    """Every layer, groups before their members, from the farthest to the nearest."""
    for layer in layers:
        yield layer
        if isinstance(layer, Group):
            yield from walk(layer.layers)


def depth_of(layers: Iterable[AnyLayer]) -> int:
    """How many groups lie in one another at most."""
    return max((1 + depth_of(x.layers) for x in layers if isinstance(x, Group)), default=0)


def path_to(layers: Iterable[AnyLayer], layer_id: str) -> list[AnyLayer]:
    """The groups that hold a layer, the outermost first, and the layer itself; empty where there is none."""
    for layer in layers:
        if layer.id == layer_id:
            return [layer]
        if isinstance(layer, Group) and (found := path_to(layer.layers, layer_id)):
            return [layer, *found]
    return []


def with_changed(layers: Iterable[AnyLayer], layer_id: str, change: dict[str, Any]) -> tuple[AnyLayer, ...]:
    """The same layers with some fields of one of them, at any depth, changed."""
    found: list[AnyLayer] = []
    for layer in layers:
        if layer.id == layer_id:
            found.append(layer.model_copy(update=change))
        elif isinstance(layer, Group) and path_to(layer.layers, layer_id):
            members = with_changed(layer.layers, layer_id, change)
            found.append(layer.model_copy(update={"layers": members}))
        else:
            found.append(layer)
    return tuple(found)


def up_to(layers: Iterable[AnyLayer], layer_id: str) -> tuple[AnyLayer, ...]:
    """The layers with all that lies in front of one hidden, in its groups too.

    They are hidden, not left out: what is behind may still take them.
    """
    found: list[AnyLayer] = []
    passed = False
    for layer in layers:
        holds = isinstance(layer, Group) and layer.id != layer_id and bool(path_to(layer.layers, layer_id))
        if passed:
            found.append(layer.model_copy(update={"shown": False}))
        elif holds and isinstance(layer, Group):
            found.append(layer.model_copy(update={"layers": up_to(layer.layers, layer_id)}))
        else:
            found.append(layer)
        passed = passed or holds or layer.id == layer_id
    return tuple(found)


def alone(layers: Iterable[AnyLayer], layer_id: str) -> tuple[AnyLayer, ...]:
    """One layer shown by itself where it lies in the comp: its groups move and time it, and do nothing else.

    It is shown on every frame, switched off or not; all others are hidden.
    """
    bare: dict[str, Any] = {
        "shown": True,
        "first": None,
        "last": None,
        "operator": "over",
        "opacity": 1.0,
        "keys": {},
    }
    found: list[AnyLayer] = []
    for layer in layers:
        if layer.id == layer_id:
            found.append(layer.model_copy(update=bare))
        elif isinstance(layer, Group) and path_to(layer.layers, layer_id):
            members = alone(layer.layers, layer_id)
            inner = {"layers": members, "alpha": GroupAlpha(), "steps": (), "matte": None}
            found.append(layer.model_copy(update={**bare, **inner}))
        else:
            found.append(layer.model_copy(update={"shown": False}))
    return tuple(found)


def beneath(layers: Sequence[AnyLayer], alpha: str = "") -> Iterator[tuple[str, list[str]]]:
    """Each layer that shows what lies beneath it, with the ids of what that is made of.

    ``alpha``: the member that gives the alpha of the group that these are in.
    """
    for i, layer in enumerate(layers):
        if layer.of_beneath:
            yield layer.id, [x.id for x in layers[:i]] + ([alpha] if alpha else [])
        elif isinstance(layer, Group):
            yield from beneath(layer.layers, layer.alpha.member if layer.alpha.by == "member" else "")


def find_loop(layers: Iterable[AnyLayer]) -> str:
    """In words a way from a layer back to itself, by what it takes and what it holds; empty where none is."""
    layers = tuple(layers)
    known = {x.id: x for x in walk(layers)}
    lies_on = dict(beneath(layers))
    done: set[str] = set()

    def needs(layer: AnyLayer) -> Iterator[tuple[str, str]]:
        for name in sources_named(layer):
            if name.startswith("layer:") and name.removeprefix("layer:") in known:
                yield "takes", name.removeprefix("layer:")
        for other in lies_on.get(layer.id, ()):
            yield "lies on", other
        if isinstance(layer, Group):
            for member in layer.layers:
                yield "holds", member.id

    def follow(way: list[tuple[str, str]]) -> list[tuple[str, str]]:
        here = way[-1][1]
        for how, after in needs(known[here]):
            ids = [i for _, i in way]
            if after in ids:
                return [*way[ids.index(after) :], (how, after)]
            if after not in done and (found := follow([*way, (how, after)])):
                return found
        done.add(here)
        return []

    for start in known:
        if start not in done and (found := follow([("", start)])):
            first, *rest = found
            return " ".join([known[first[1]].name, *(f"{how} {known[i].name}" for how, i in rest)])
    return ""
