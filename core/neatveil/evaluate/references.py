"""What steps name besides their own layer: other layers after their steps, elements, further planes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..comp import Comp, Element, Layer, element_frame
from ..errors import DocumentRefused
from ..picture import PremultipliedPicture, whole_frame
from ..steps import Step
from ..steps.base import Fetch
from ..steps.two import TwoStep, fitted
from .cache import content_key
from .sources import Sources


@dataclass(frozen=True)
class References:
    """Finds pictures by name for one frame of a comp. ``own``: the layer whose steps ask."""

    sources: Sources
    comp: Comp
    frame: int
    own: Layer

    def key(self, steps: Sequence[Step]) -> list[str]:
        """Changes with everything that the steps name."""
        return [self._key(s.second) for s in steps if isinstance(s, TwoStep) and s.second and s.on]

    def fetch(self, level: int) -> Fetch:
        def get(name: str, planes: tuple[str, ...]) -> PremultipliedPicture:
            layer, element, number = self._found(name)
            key = self.sources.key(element, number)
            steps = [s for s in layer.steps if s.on] if layer is not None and name else []
            inner = References(self.sources, self.comp, self.frame, layer) if layer is not None else self
            picture = self.sources.stepped(element, number, level, key, steps, self.frame, inner)
            if not planes:
                return picture
            extra = self.sources.data(element, number, level, planes)
            return with_extra(picture, extra, planes)

        return get

    def _key(self, name: str) -> str:
        layer, element, number = self._found(name)
        key = self.sources.key(element, number)
        if layer is None:
            return key
        steps = [s for s in layer.steps if s.on]
        inner = References(self.sources, self.comp, self.frame, layer)
        return content_key(key, [s.model_dump() for s in steps], self.frame, inner.key(steps))

    def _found(self, name: str) -> tuple[Layer | None, Element, int]:
        layer: Layer | None
        if not name or name.startswith("layer:"):
            layer = self.own if not name else self._layer(name.removeprefix("layer:"))
            element = self.comp.elements.get(layer.element)
            timed = layer
        else:
            layer, element = None, self.comp.elements.get(name)
            timed = Layer(id="second", name=name, element=name)
        if element is None:
            raise DocumentRefused(
                f"Layer {self.own.name}: a step takes {name or 'its element'}, which the project has not.",
                advice="Choose another source in the step, or take the step out.", where=self.own.name,
            )  # fmt: skip
        number = element_frame(self.comp, timed, element, self.frame)
        if number is None:  # it ends blank here: what was last seen stands in
            number = min(max(self.frame, element.first), element.last)
        return layer, element, number

    def _layer(self, layer_id: str) -> Layer:
        for layer in self.comp.layers:
            if layer.id == layer_id:
                return layer.at(self.frame)
        raise DocumentRefused(
            f"Layer {self.own.name}: a step takes the layer {layer_id}, which is not in the comp any more.",
            advice="Choose another source in the step, or take the step out.", where=self.own.name,
        )  # fmt: skip


def with_extra(
    picture: PremultipliedPicture, extra: PremultipliedPicture, names: tuple[str, ...]
) -> PremultipliedPicture:
    """The picture with further planes, over the whole frame."""
    full = whole_frame(picture)
    rest = fitted(extra, full, "stretch")
    return full.with_planes({**full.planes, **{n: rest[n] for n in names}})
