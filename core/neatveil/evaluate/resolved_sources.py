"""Pictures and mattes that a layer's steps and mattes name: other layers, elements, extra planes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import log2

import numpy as np
from numpy.typing import NDArray

from ..comp import Element
from ..errors import ValueRefused
from ..mattes import Drawn, DrawnPart, Matte, ObjectPart, PicturePart
from ..mattes.objects import SHARES, rank_channels, shares_of
from ..picture import Plane, PremultipliedPicture, whole_frame
from ..steps.base import Fetch
from ..steps.extra_channels import whole_picture
from ..steps.foreign import ForeignStep
from ..steps.second_source import fit_to
from .cache import content_key
from .matting import PartInput, apply_matte, combine_parts, remove_screen_colour
from .named_sources import NamedSources
from .placement import placement_of

#: Least width of the small picture in which an uneven screen is surveyed.
SURVEYED = 240


class ResolvedSources(NamedSources):
    """The pictures and mattes that the own layer's steps and mattes name, at a level."""

    def fetch(self, level: int) -> Fetch:
        return _Fetch(self, level)

    def picture(self, level: int, *, key: str, element: Element, number: int) -> PremultipliedPicture:
        """The own layer after its steps and cut by its matte, at a level."""
        steps = [s for s in self.own.steps if s.on]
        done = self.sources.stepped(element, number, level, key, steps, self.frame, self)
        matte = self.own.cut
        if matte is None:
            return done
        whole = content_key(self.steps_key(key), self.matte_key(matte), "matted", level)
        inside = matte.inside if matte.edge_colour == "inside" else None

        def make() -> PremultipliedPicture:
            # the key sees the screen; the picture that is cut has it removed
            seen = self._screen_removed(matte, level, key=key, element=element, number=number) or done
            return apply_matte(seen, self._cached_matte(matte, level, done), inside)

        return self.sources.cache.get(whole, make)

    def _screen_removed(
        self, matte: Matte, level: int, *, key: str, element: Element, number: int
    ) -> PremultipliedPicture | None:
        """The own layer after its steps, beginning with the screen's light taken out; None where none is."""
        key_part = matte.screen_key
        if key_part is None:
            return None
        part = key_part.model_copy(update={"read": "source"})

        def make() -> PremultipliedPicture:
            picture = whole_picture(self.sources.picture(element, number, level, key))
            return remove_screen_colour(self._part_input(part, level, picture))

        def base() -> PremultipliedPicture:
            return self.sources.cache.get(content_key(screen_key, level), make)

        steps = [s for s in self.own.steps if s.on]
        second = self.named_key(part.second) if part.second else ""
        screen_key = content_key(key, "screen removed", part.model_dump_json(), second)
        return self.sources.stepped(element, number, level, screen_key, steps, self.frame, self, base)

    def named(self, name: str, level: int) -> PremultipliedPicture:
        """Another layer after its steps and cut by its matte, or an element; for no name the own element."""
        layer, element, number = self.found(name)
        key = self.source_key(element, number)
        if layer is None or not name:
            return self.sources.picture(element, number, level, key)
        inner = self.of(layer)
        return inner.picture(level, key=key, element=element, number=number)

    def picture_under_point(
        self, name: str, extra_channels: tuple[str, ...]
    ) -> tuple[PremultipliedPicture, NDArray[np.float64]]:
        """A picture by name in full size, with extra channels, and the matrix from the comp's points to it.

        The layer itself comes after its steps and before its matte.
        """
        layer, element, number = self.found(name)
        key = self.source_key(element, number)
        if layer is None or name:
            picture = self.named(name, 0)
        else:
            steps = [s for s in self.own.steps if s.on]
            picture = self.sources.stepped(element, number, 0, key, steps, self.frame, self)
        if extra_channels:
            picture = with_extra(
                picture, self.sources.extra_planes(element, number, 0, extra_channels), extra_channels
            )
        # an element alone is read where the own layer lies
        size = self.sources.full_size(element, number, key)
        placement = placement_of((layer or self.own).transform, (self.comp.width, self.comp.height), size, 0)
        return picture, placement.matrix * 2.0**placement.source_level

    def whole_matte(self, step: int | None, level: int) -> Plane:
        """The own layer's matte, or that of one of its steps; `ValueRefused` where there is none."""
        steps = self.own.steps
        if step is not None:
            if step >= len(steps) or isinstance(steps[step], ForeignStep):
                raise ValueRefused(f"Layer {self.own.name} has no step {step + 1} with a matte.")
            return self.matte_of_step(steps[step].through.matte, level)
        if self.own.matte is None:
            raise ValueRefused(f"Layer {self.own.name} has no matte.", advice="Make one in its recipe.")
        _, element, number = self.found("")
        on = [s for s in steps if s.on]
        key = self.source_key(element, number)
        done = self.sources.stepped(element, number, level, key, on, self.frame, self)
        return self._matte(self.own.matte, level, done)

    def matte_of_step(self, matte: Matte, level: int) -> Plane:
        """For a step of the own layer: its own channels are read as they came."""
        _, element, number = self.found("")
        return self._matte(matte, level, self.sources.picture(element, number, level), of_step=True)

    def _cached_matte(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        """The layer's matte, kept where it sees nothing of the layer's own steps: they may change at will."""
        seen = [p for p in matte.parts if p.on and isinstance(p, PicturePart)]
        if any(not p.source and p.read != "source" for p in seen):
            return self._matte(matte, level, own)
        window = own.display_window

        def make() -> PremultipliedPicture:
            return PremultipliedPicture({"A": self._matte(matte, level, own)}, window, window)

        key = content_key(self.matte_key(matte), "plane", level, window.as_list())
        return self.sources.cache.get(key, make)["A"]

    def _matte(self, matte: Matte, level: int, own: PremultipliedPicture, *, of_step: bool = False) -> Plane:
        if not matte.steady:
            return matte.refined(self._combined(matte, level, own), level)
        planes = [
            names._combined(then, level, names._own_at_frame(level, own, of_step=of_step))
            for names, then in self.frames_around(matte)
        ]
        return matte.refined(matte.steadied(planes), level)

    def _combined(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        return combine_parts(matte, own, level, self._part_inputs(matte, level, own), self._own_size())

    def _own_at_frame(self, level: int, own: PremultipliedPicture, *, of_step: bool) -> PremultipliedPicture:
        """What a matte of the own layer, or of one of its steps, sees of the layer itself at this frame.

        ``own``: the same at the frame that is drawn, for where sizes change on the way.
        """
        _, element, number = self.found("")
        key = self.source_key(element, number)
        steps = [] if of_step else [s for s in self.own.steps if s.on]
        found = self.sources.stepped(element, number, level, key, steps, self.frame, self)
        same = found.display_window == own.display_window
        return found if same else own

    def _own_size(self) -> tuple[int, int]:
        _, element, number = self.found("")
        return self.sources.full_size(element, number, self.source_key(element, number))

    def _part_inputs(
        self, matte: Matte, level: int, own: PremultipliedPicture
    ) -> Iterable[PartInput | Drawn]:
        window = own.display_window
        for part in (p for p in matte.parts if p.on):
            if isinstance(part, PicturePart):
                yield self._part_input(part, level, own)
            elif isinstance(part, DrawnPart):
                yield part.drawn(window.height, window.width, level)

    def _part_input(self, part: PicturePart, level: int, own: PremultipliedPicture) -> PartInput:
        layer, element, number = self.found(part.source)
        if isinstance(part, ObjectPart):
            picture = self._object_shares(part, element, number, level)
        elif part.read == "source":
            picture = self.sources.picture(element, number, level)
        else:
            picture = self.named(part.source, level) if part.source else own
        if part.extra_channel and part.extra_channel not in picture.planes:
            extra = self.sources.extra_planes(element, number, level, (part.extra_channel,))
            picture = with_extra(picture, extra, (part.extra_channel,))
        places = None
        if layer is not None and part.source and part.read == "placed":
            size = self.sources.full_size(element, number, self.source_key(element, number))
            places = (layer.transform, self.own.transform, (self.comp.width, self.comp.height), size)
        second = self.named(part.second, level) if part.second else None
        # the same small picture for every level: the screen and the delivery find the same
        key_part = None
        if part.surveys:
            width, _ = self.sources.full_size(element, number, self.source_key(element, number))
            small = self.sources.picture(element, number, max(0, int(log2(max(1.0, width / SURVEYED)))))
            key_part = part.survey(whole_picture(small).planes)
        return PartInput(part, picture, places, second, key_part)

    def _object_shares(
        self, part: ObjectPart, element: Element, number: int, level: int
    ) -> PremultipliedPicture:
        """The named objects' shares as a plane, halved once they are known: identities cannot be."""

        def make() -> PremultipliedPicture:
            known = [c.name for c in self.sources.decoder.probe(element.file).channels]
            ranks = rank_channels(part.ranks, known)
            stored = self.sources.stored(element, number, [n for pair in ranks for n in pair])
            plane = shares_of(part.objects, stored.planes, ranks)
            return PremultipliedPicture(
                {SHARES: plane, "A": plane}, stored.data_window, stored.display_window
            )

        return self.sources.view(element, number, level, ["objects", part.ranks, *part.objects], make)


@dataclass(frozen=True)
class _Fetch:
    names: ResolvedSources
    level: int

    def __call__(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        names = self.names
        picture = names.named(name, self.level)
        if not planes:
            return picture
        _, element, number = names.found(name)
        return with_extra(picture, names.sources.extra_planes(element, number, self.level, planes), planes)

    def matte(self, matte: Matte, /) -> Plane:
        return self.names.matte_of_step(matte, self.level)


def with_extra(
    picture: PremultipliedPicture, extra: PremultipliedPicture, names: tuple[str, ...]
) -> PremultipliedPicture:
    """The picture with extra planes, over the whole frame."""
    full = whole_frame(picture)
    rest = fit_to(extra, full, "stretch")
    return full.with_planes({**full.planes, **{n: rest[n] for n in names}})
