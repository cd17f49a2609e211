"""What layers name besides their own element: other layers, elements, further planes, in steps and mattes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ..comp import Comp, Element, Layer, element_frame
from ..errors import DocumentRefused
from ..mattes import Matte
from ..picture import Plane, PremultipliedPicture, whole_frame
from ..steps import Step
from ..steps.base import Fetch
from ..steps.foreign import ForeignStep
from ..steps.two import TwoStep, fitted
from .cache import content_key
from .matting import Held, matte_over, matted
from .sources import Sources


@dataclass(frozen=True)
class References:
    """Finds pictures by name for one frame of a comp. ``own``: the layer that asks, as it is then."""

    sources: Sources
    comp: Comp
    frame: int
    own: Layer

    def key(self, steps: Sequence[Step]) -> list[str]:
        """Changes with everything that the steps name."""
        on = [s for s in steps if s.on and not isinstance(s, ForeignStep)]
        seconds = [self._key(s.second) for s in on if isinstance(s, TwoStep) and s.second]
        return seconds + [
            self.matte_key(s.through.matte) for s in on if s.through.by == "matte" and s.through.matte.works
        ]

    def matte_key(self, matte: Matte) -> str:
        """Changes with everything that the matte is made of."""
        parts: list[object] = []
        for part in (p for p in matte.parts if p.on):
            layer, element, number = self._found(part.source)
            placed = layer is not None and part.read == "placed"
            # the layer's own steps, where they count, are in the key that this one is a part of
            whole = part.source.startswith("layer:") and part.read != "source"
            key = self._key(part.source) if whole else self.sources.key(element, number)
            places = [layer.place.model_dump(), self.own.place.model_dump()] if layer and placed else []
            parts.append([key, places])
        return content_key(matte.model_dump(), parts)

    def fetch(self, level: int) -> Fetch:
        return _Fetch(self, level)

    def picture(self, level: int, *, key: str, element: Element, number: int) -> PremultipliedPicture:
        """The own layer after its steps and cut by its matte, at a level."""
        steps = [s for s in self.own.steps if s.on]
        done = self.sources.stepped(element, number, level, key, steps, self.frame, self)
        matte = self.own.cut
        if matte is None:
            return done
        whole = content_key(self._steps_key(key), self.matte_key(matte), "matted", level)
        return self.sources.cache.get(whole, lambda: matted(done, self._matte(matte, level, done)))

    def named(self, name: str, level: int) -> PremultipliedPicture:
        """Another layer after its steps and cut by its matte, or an element; for no name the own element."""
        layer, element, number = self._found(name)
        key = self.sources.key(element, number)
        if layer is None or not name:
            return self.sources.picture(element, number, level, key)
        inner = References(self.sources, self.comp, self.frame, layer)
        return inner.picture(level, key=key, element=element, number=number)

    def matte_of_step(self, matte: Matte, level: int) -> Plane:
        """For a step of the own layer: its own channels are read as they came."""
        _, element, number = self._found("")
        return self._matte(matte, level, self.sources.picture(element, number, level))

    def _matte(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        return matte_over(matte, own, level, self._held(matte, level, own), self._own_size())

    def _own_size(self) -> tuple[int, int]:
        _, element, number = self._found("")
        return self.sources.full_size(element, number, self.sources.key(element, number))

    def _held(self, matte: Matte, level: int, own: PremultipliedPicture) -> Iterable[Held]:
        comp = self.comp.width, self.comp.height
        for part in (p for p in matte.parts if p.on):
            layer, element, number = self._found(part.source)
            if part.read == "source":
                picture = self.sources.picture(element, number, level)
            else:
                picture = self.named(part.source, level) if part.source else own
            if part.further and part.channel not in picture.planes:
                extra = self.sources.data(element, number, level, (part.channel,))
                picture = with_extra(picture, extra, (part.channel,))
            places = None
            if layer is not None and part.source and part.read == "placed":
                size = self.sources.full_size(element, number, self.sources.key(element, number))
                places = (layer.place, self.own.place, comp, size)
            yield Held(part, picture, places)

    def _steps_key(self, key: str) -> str:
        steps = [s for s in self.own.steps if s.on]
        return content_key(key, [s.model_dump() for s in steps], self.frame, self.key(steps))

    def _key(self, name: str) -> str:
        layer, element, number = self._found(name)
        key = self.sources.key(element, number)
        if layer is None:
            return key
        inner = References(self.sources, self.comp, self.frame, layer)
        found = inner._steps_key(key)
        return content_key(found, inner.matte_key(layer.cut)) if layer.cut else found

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
                f"Layer {self.own.name}: a step or matte takes {name or 'its element'}, "
                "which the project has not.",
                advice="Choose another source there, or take it out.", where=self.own.name,
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
            f"Layer {self.own.name}: a step or matte takes the layer {layer_id}, which is not in the comp "
            "any more.",
            advice="Choose another source there, or take it out.", where=self.own.name,
        )  # fmt: skip


@dataclass(frozen=True)
class _Fetch:
    names: References
    level: int

    def __call__(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        names = self.names
        picture = names.named(name, self.level)
        if not planes:
            return picture
        _, element, number = names._found(name)
        return with_extra(picture, names.sources.data(element, number, self.level, planes), planes)

    def matte(self, matte: Matte, /) -> Plane:
        return self.names.matte_of_step(matte, self.level)


def with_extra(
    picture: PremultipliedPicture, extra: PremultipliedPicture, names: tuple[str, ...]
) -> PremultipliedPicture:
    """The picture with further planes, over the whole frame."""
    full = whole_frame(picture)
    rest = fitted(extra, full, "stretch")
    return full.with_planes({**full.planes, **{n: rest[n] for n in names}})
