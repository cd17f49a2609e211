"""A rendered set as one group of a comp: each pass laid as its kind is meant.

- The beauty stands alone, or the lighting passes are added up to it: two ways to the same picture, of which
  one is shown. All of it lies inside the beauty's alpha.
- Shadow and occlusion are multiplied inside that alpha. They are hidden at first: the light has its shadows.
- The caught shadow is black with an alpha of its own. It is added beside the stack, so that the plate is
  darkened to ``plate * (1 - alpha - caught)``.
- Render layers with holdouts are shares of one picture and are added up; whole ones lie over each other.
- Object masks, IDs and other data are no layers: they are extra channels of the beauty, which carries those
  that have files of their own. Shadow, occlusion and the caught shadow are taken from there too.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import Any, NamedTuple

from ..comp import Group, GroupAlpha, Layer, Transform
from ..comp.layers import AnyLayer
from ..errors import ValueRefused
from ..steps.patch import PatchStep, Route
from .output import Written
from .setup import RenderSetup

#: Passes that add up to the beauty.
LIGHTING = ("diffuse", "reflection", "transmission", "emission", "environment", "glare")
#: Data passes that are multiplied into it, and their channels for R, G and B.
MULTIPLIED = {"shadow": ("R", "G", "B"), "occlusion": ("Y", "Y", "Y")}


class RenderedElement(NamedTuple):
    """A sequence of a render, and the key and the name of the element that it became."""

    written: Written
    key: str
    name: str


def pass_stack(
    setup: RenderSetup, rendered: Sequence[RenderedElement], name: str, taken: Iterable[str] = (),
    scale: float = 1.0,
) -> Group:  # fmt: skip
    """The group that lays a render into a comp.

    Parameters
    ----------
    setup : that it was rendered with.
    rendered : its sequences, those of the farthest render layer first.
    name : of the group.
    taken : ids of layers that the comp has.
    scale : by which it is enlarged, as of a draft that was rendered smaller than it was ordered for.

    Raises
    ------
    ValueRefused
        None of the passes is a picture.
    """
    ids = _Ids(set(taken))
    layers = list(dict.fromkeys(r.written.layer for r in rendered))
    stacks = [
        _one_layer(setup, [r for r in rendered if r.written.layer == x], x or name, ids) for x in layers
    ]
    found = [s for s in stacks if s is not None]
    if not found:
        raise ValueRefused(
            f"{name} has no pass that is a picture.",
            advice="Render the beauty, or lighting passes; data passes are taken by steps and mattes.",
            where=name,
        )
    placed = Transform(scale=scale)
    if len(found) == 1 and not layers[0]:
        return found[0].model_copy(update={"name": name, "transform": placed})
    if setup.holdout == "nearer" and not setup.flattened:
        found = [found[0], *(s.model_copy(update={"operator": "plus"}) for s in found[1:])]
    return Group(id=ids.new(name), name=name, layers=tuple(found), transform=placed)


class CarriedChannel(NamedTuple):
    """A channel of a data pass: what the beauty calls it, and the channel of its own file."""

    source: RenderedElement
    name: str
    channel: str


def carried_channels(
    rendered: Sequence[RenderedElement], channels_of: Callable[[RenderedElement], Sequence[str]]
) -> dict[str, list[CarriedChannel]]:
    """By the key of each beauty what it is to carry of the data passes in files of their own.

    ``channels_of``: the channels of a sequence's files.
    """
    found: dict[str, list[CarriedChannel]] = {}
    for row in rendered:
        if "beauty" not in row.written.passes:
            continue
        beside = [r for r in rendered if r.written.layer == row.written.layer and r is not row]
        found[row.key] = [
            CarriedChannel(data, _carried_name(data, channel), channel)
            for data in beside
            if data.written.kind == "data"
            for channel in channels_of(data)
            if channel != "A"
        ]
    return found


def _carried_name(row: RenderedElement, channel: str) -> str:
    """Files of codes have plain names; beside others a channel has the name of its pass before it."""
    return channel if "." in channel else f"{row.written.name.rpartition(' ')[2]}.{channel}"


class _Ids:
    """Ids that the comp does not have yet."""

    def __init__(self, taken: set[str]) -> None:
        self.taken = taken

    def new(self, name: str) -> str:
        base = "".join(c if c.isascii() and (c.isalnum() or c in "_-") else "-" for c in name)[:48] or "pass"
        found, number = base, 1
        while found in self.taken:
            number += 1
            found = f"{base}-{number}"
        self.taken.add(found)
        return found


def _one_layer(setup: RenderSetup, rendered: Sequence[RenderedElement], name: str, ids: _Ids) -> Group | None:
    """The stack of one render layer, with its caught shadow behind it."""
    by_pass = {p: r for r in rendered for p in r.written.passes}
    stack = _stack(setup, by_pass, name, ids)
    caught = _caught(setup, by_pass, ids)
    if stack is None or caught is None:
        return stack
    inner = stack.model_copy(update={"id": ids.new(f"{name}-passes"), "operator": "plus"})
    return Group(id=stack.id, name=name, layers=(caught, inner.model_copy(update={"name": f"{name} passes"})))


def _stack(setup: RenderSetup, by_pass: dict[str, RenderedElement], name: str, ids: _Ids) -> Group | None:
    """Beauty and passes inside the beauty's alpha; without a beauty inside that of the alpha pass."""
    beauty = _beauty(by_pass, ids)
    missing = _missing(setup, by_pass)
    lights = [x for p in LIGHTING if (x := _light(by_pass, p, ids)) is not None]
    multiplied = [x for p in MULTIPLIED if (x := _multiplied(by_pass, p, ids)) is not None]
    if beauty is None and not lights:
        return None
    members: list[AnyLayer] = [] if beauty is None else [beauty]
    alternatives: tuple[str, ...] = ()
    if lights:
        rebuilt = Group(
            id=ids.new("lighting-passes"), layers=tuple(lights),
            name=f"lighting passes without {', '.join(missing)}" if missing else "lighting passes",
            operator="plus", shown=beauty is None,
        )  # fmt: skip
        members.append(rebuilt)
        alternatives = () if beauty is None else (beauty.id, rebuilt.id)
    alpha = beauty or _alpha(by_pass, ids)
    if beauty is None and alpha is not None:
        members.insert(0, alpha)
    given = GroupAlpha() if alpha is None else GroupAlpha(by="member", member=alpha.id)
    return Group(
        id=ids.new(name), name=name, layers=(*members, *multiplied), alpha=given, alternatives=alternatives
    )


def _missing(setup: RenderSetup, by_pass: dict[str, RenderedElement]) -> list[str]:
    """Lighting passes whose light is in the beauty, and that were not rendered."""
    seen = setup.environment is not None and setup.environment.visible
    there = {"environment": seen, "glare": setup.glare is not None}
    return [p for p in LIGHTING if there.get(p, True) and p not in by_pass]


def _beauty(by_pass: dict[str, RenderedElement], ids: _Ids) -> Layer | None:
    row = by_pass.get("beauty")
    return None if row is None else Layer(id=ids.new("beauty"), name="beauty", element=row.key)


def _alpha(by_pass: dict[str, RenderedElement], ids: _Ids) -> Layer | None:
    """The alpha pass by itself: it covers, and has no colour. Files of codes hold it as grey."""
    row = by_pass.get("alpha")
    if row is None:
        return None
    steps = (_routes(("0", "0", "0"), "luma" if row.written.reading.alpha == "none" else "A"),)
    return Layer(id=ids.new("alpha"), name="alpha", element=row.key, steps=steps)


def _light(by_pass: dict[str, RenderedElement], name: str, ids: _Ids) -> Layer | None:
    """A lighting pass as light without coverage: it adds up wherever it reaches."""
    row = by_pass.get(name)
    if row is None:
        return None
    alone = len(row.written.passes) == 1
    channels = ("R", "G", "B") if alone else tuple(f"{name}.{c}" for c in "RGB")
    return Layer(
        id=ids.new(name), name=name, element=row.key, steps=(_routes(channels, "0"),), operator="plus"
    )


def _multiplied(by_pass: dict[str, RenderedElement], name: str, ids: _Ids) -> Layer | None:
    """A share that is multiplied into the light, out of the extra channels of the beauty."""
    row, carrier = by_pass.get(name), by_pass.get("beauty")
    if row is None or carrier is None:
        return None
    steps = (_routes(tuple(f"{name}.{c}" for c in MULTIPLIED[name]), "1"),)
    return Layer(
        id=ids.new(name), name=name, element=carrier.key, steps=steps, operator="multiply", shown=False
    )


def _caught(setup: RenderSetup, by_pass: dict[str, RenderedElement], ids: _Ids) -> Layer | None:
    """The caught shadow as black; nothing where the beauty's alpha has it already."""
    row, carrier = by_pass.get("caught"), by_pass.get("beauty")
    if row is None or carrier is None or setup.shadows == "in-alpha":
        return None
    letter = "A" if setup.output.format.startswith("exr") else "Y"
    steps = (_routes(("0", "0", "0"), f"caught.{letter}"),)
    return Layer(id=ids.new("caught"), name="caught shadow", element=carrier.key, steps=steps)


def _routes(colour: Sequence[str], alpha: str) -> PatchStep:
    """Channels as they are stored, without dividing or multiplying by any alpha."""
    routes: dict[Any, Route] = {n: _route(c) for n, c in zip("RGBA", (*colour, alpha), strict=True)}
    return PatchStep(routes=routes, input_alpha="premultiplied", output_alpha="premultiplied")


def _route(channel: str) -> Route:
    return Route(source="constant" if channel in {"0", "1"} else "own", channel=channel)
