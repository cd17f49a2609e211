"""What a layer's steps and mattes name, found: other layers and elements, with keys that change with it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Self

from ..comp import Comp, Element, Layer, element_frame
from ..errors import DocumentRefused
from ..mattes import Matte, PicturePart
from ..steps import Step
from ..steps.foreign import ForeignStep
from ..steps.second_source import SecondSourceStep
from .cache import content_key
from .sources import Sources

#: What was found, by what it was found for; with the objects that are told apart by their identity there.
Lookups = dict[tuple[object, ...], Any]


@dataclass(frozen=True)
class NamedSources:
    """Finds what is named for one frame of a comp. ``own``: the layer that asks, as it is then.

    ``lookups``: what was found for the same comp before, shared by all that ask for one picture of it.
    """

    sources: Sources
    comp: Comp
    frame: int
    own: Layer
    lookups: Lookups = field(default_factory=dict, compare=False, repr=False)

    def key(self, steps: Sequence[Step]) -> list[str]:
        """Changes with everything that the steps name."""
        on = [s for s in steps if s.on and not isinstance(s, ForeignStep)]
        seconds = [self.named_key(s.second) for s in on if isinstance(s, SecondSourceStep) and s.second]
        return seconds + [
            self.matte_key(s.through.matte) for s in on if s.through.by == "matte" and s.through.matte.works
        ]

    def matte_key(self, matte: Matte) -> str:
        """Changes with everything that the matte is made of."""
        known = "matte", self.own.id, self.frame, id(matte)
        if known not in self.lookups:
            # the matte is kept with it: while it lives no other has its identity
            self.lookups[known] = (matte, self._matte_key(matte))
        found: str = self.lookups[known][1]
        return found

    def _matte_key(self, matte: Matte) -> str:
        if matte.steady:
            found = [names.matte_key(then) for names, then in self.frames_around(matte)]
            return content_key(matte.model_dump_json(), found)
        parts: list[object] = []
        for part in (p for p in matte.parts if p.on and isinstance(p, PicturePart)):
            layer, element, number = self.found(part.source)
            placed = layer is not None and part.read == "placed"
            # the layer's own steps, where they count, are in the key that this one is a part of
            whole = part.source.startswith("layer:") and part.read != "source"
            key = self.named_key(part.source) if whole else self.source_key(element, number)
            places = (
                [layer.transform.model_dump_json(), self.own.transform.model_dump_json()]
                if layer and placed
                else []
            )
            parts.append([key, places, self.named_key(part.second) if part.second else ""])
        return content_key(matte.model_dump_json(), parts)

    def frames_around(self, matte: Matte) -> list[tuple[Self, Matte]]:
        """The frames that a steadied matte looks at, its own in the middle, each with its matte then."""
        original = self.comp.layer(self.own.id)
        found = []
        for frame in range(self.frame - matte.steady, self.frame + matte.steady + 1):
            own = original.at(frame)
            then = _same_matte(matte, original, own, self.own)
            names = replace(self, frame=frame, own=own)
            found.append((names, then.model_copy(update={"steady": 0})))
        return found

    def steps_key(self, key: str) -> str:
        """Changes with the own layer's steps and everything that they name; ``key``: of its frame."""
        steps = [s for s in self.own.steps if s.on]
        return content_key(key, [s.model_dump_json() for s in steps], self.frame, self.key(steps))

    def named_key(self, name: str) -> str:
        """Changes with what the name stands for."""
        layer, element, number = self.found(name)
        key = self.source_key(element, number)
        if layer is None:
            return key
        inner = self.of(layer)
        found = inner.steps_key(key)
        return content_key(found, inner.matte_key(layer.cut)) if layer.cut else found

    def found(self, name: str) -> tuple[Layer | None, Element, int]:
        """What a name stands for: a layer, its element and that one's frame; no layer for an element."""
        layer: Layer | None = None
        if not name or name.startswith("layer:"):
            timed = layer = self.own if not name else self._layer(name.removeprefix("layer:"))
        else:
            timed = Layer(id="second", name=name, element=name)
        if not self.comp.knows(timed.element):
            raise DocumentRefused(
                f"Layer {self.own.name}: a step or matte takes {name or 'its element'}, "
                "which the project has not.",
                advice="Choose another source there, or take it out.", where=self.own.name,
            )  # fmt: skip
        element = self.comp.element(timed.element)
        number = element_frame(self.comp, timed, element, self.frame)
        if number is None:  # it ends blank here: its first or last frame stands in
            holding = timed.model_copy(update={"beyond": "hold"})
            number = element_frame(self.comp, holding, element, self.frame)
            assert number is not None
        return layer, element, number

    def of(self, layer: Layer) -> Self:
        """What is named by another layer, as it is then."""
        return replace(self, own=layer)

    def source_key(self, element: Element, number: int) -> str:
        """Of a frame's file, asked once for one picture of the comp."""
        known = "source", id(element), number
        if known not in self.lookups:
            self.lookups[known] = (element, self.sources.key(element, number))
        found: str = self.lookups[known][1]
        return found

    def _layer(self, layer_id: str) -> Layer:
        known = "layer", layer_id, self.frame
        if known in self.lookups:
            there: Layer = self.lookups[known]
            return there
        for layer in self.comp.layers:
            if layer.id == layer_id:
                self.lookups[known] = layer.at(self.frame)
                return self._layer(layer_id)
        raise DocumentRefused(
            f"Layer {self.own.name}: a step or matte takes the layer {layer_id}, which is not in the comp "
            "any more.",
            advice="Choose another source there, or take it out.", where=self.own.name,
        )  # fmt: skip


def _same_matte(matte: Matte, original: Layer, then: Layer, now: Layer) -> Matte:
    """The matte of a layer or of one of its steps as it is at another frame."""
    if original.matte is not None and matte == now.matte:
        assert then.matte is not None
        return then.matte
    for i, step in enumerate(now.steps):
        if not isinstance(step, ForeignStep) and step.through.matte == matte:
            return then.steps[i].through.matte
    return matte
