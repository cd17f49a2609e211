"""Pictures and mattes that a layer's steps and mattes name: other layers, elements, extra planes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from math import floor, log2

import numpy as np

from ..comp.layers import MatteOwner, is_by_itself, matte_of
from ..errors import NameUnknown, ValueRefused
from ..mattes import Drawn, DrawnPart, Matte, ObjectPart, PicturePart
from ..mattes.natural import EDITION
from ..mattes.objects import SHARES, rank_channels, shares_of
from ..numeric.camera import Matrix
from ..numeric.resample import is_perspective
from ..picture import Box, Plane, PremultipliedPicture, whole_frame
from ..steps.base import Fetch
from ..steps.extra_channels import whole_picture
from ..steps.second_source import fit_to
from .blended import BlendedFrames
from .cache import content_key
from .content import Content, ElementFrame, Way
from .matting import (
    PartInput,
    Places,
    apply_matte,
    combine_parts,
    found_in,
    mixed_by_matte,
    remove_screen_colour,
)
from .named_sources import NamedSources, merged_alone
from .placement import frame_box, place_of, placed_whole

#: Least width of the small picture in which an uneven screen is surveyed.
SURVEYED = 240


class ResolvedSources(NamedSources):
    """The pictures and mattes that the own layer's steps and mattes name, at a level."""

    def fetch(self, level: int) -> Fetch:
        return _Fetch(self, level)

    def picture(self, level: int, content: Content) -> PremultipliedPicture:
        """The own layer after its steps and cut by its matte, at a level; ``content``: what it shows."""
        done = self._stepped(content, level)
        matte = self.own.cut
        if matte is None:
            return done
        whole = content_key(self.steps_key(content.key), self.matte_key(matte), "matted", level)

        def make() -> PremultipliedPicture:
            # the key sees the screen; the picture that is cut has it removed
            clean = self._screen_removed(matte, content)
            seen = done if clean is None else self._stepped(clean, level)
            plane = self._cached_matte(matte, level, done)
            if self.own.adjusts:
                return mixed_by_matte(content.picture(level), seen, plane)
            return apply_matte(seen, plane, matte)

        return self.kept(whole, make)

    def _stepped(self, content: Content, level: int) -> PremultipliedPicture:
        steps = [s for s in self.own.steps if s.on]
        return self.sources.stepped(content, level, steps, self.frame, self)

    def _screen_removed(self, matte: Matte, content: Content) -> Content | None:
        """The content with the screen's light taken out; None where there is no screen."""
        key_part = matte.screen_key
        if key_part is None:
            return None
        part = key_part.model_copy(update={"read": "source"})
        second = self.named_key(part.second) if part.second else ""
        key = content_key(content.key, "screen removed", part.model_dump_json(), second)

        def make(level: int) -> PremultipliedPicture:
            return remove_screen_colour(self._part_input(part, level, whole_picture(content.picture(level))))

        return _Derived(key, content, make, self)

    def named(self, name: str, level: int) -> PremultipliedPicture:
        """Another layer after its steps and cut by its matte, or an element; for no name the own content."""
        there, content = self.found(name)
        if there is None or not name:
            return content.picture(level)
        return there.picture(level, content)

    def extra_planes(
        self, content: Content, level: int, names: tuple[str, ...], *, mixed: bool = True
    ) -> PremultipliedPicture:
        """Extra planes of what a layer shows, halved ``level`` times; as stored.

        Those of a group are its members', as they lie in it. Not ``mixed``: as of `Fetch.unmixed`.
        """
        if isinstance(content, BlendedFrames):
            content = content.nearest
        if isinstance(content, ElementFrame):
            return self.sources.extra_planes(content, level, names, mixed=mixed)
        planes = {}
        for name in names:
            way = self._way(content, name)
            found = self.sources.extra_planes(way.frame, level, (name,), mixed=mixed)
            planes[name] = self._seen_through(way, found, level, "nearest")[name]
        window = frame_box(self.context.comp, level)
        return PremultipliedPicture(planes, window, window, data_planes=names)

    def _way(self, content: Content, channel: str) -> Way:
        way = content.way_to(channel)
        if way is None:
            raise NameUnknown(f"Nothing that is shown there has a channel {channel}.", where=self.own.name)
        return way

    def _seen_through(
        self, way: Way, picture: PremultipliedPicture, level: int, resampling: str
    ) -> PremultipliedPicture:
        """A picture of a member's element as it lies in the group's frame: one resampling for all groups."""
        matrix = np.eye(3)
        for layer, size in reversed(way.layers):
            matrix = place_of(self.context.comp, layer, size) @ matrix
        return placed_whole(
            whole_picture(picture), matrix, level, frame_box(self.context.comp, level), resampling
        )

    def picture_under_point(
        self, name: str, extra_channels: tuple[str, ...]
    ) -> tuple[PremultipliedPicture, Matrix]:
        """A picture by name in full size, with extra channels, and the matrix from the comp's points to it.

        The layer itself comes after its steps and before its matte.
        """
        there, content = self.found(name)
        picture = self.named(name, 0) if there is None or name else self._stepped(content, 0)
        if extra_channels:
            picture = with_extra(picture, self.extra_planes(content, 0, extra_channels), extra_channels)
        # an element alone is read where the own layer lies
        return picture, (there or self).matrix_to(content.size())

    def matrix_to(self, size: tuple[int, int]) -> Matrix:
        """3 x 3, from corner coordinates of the comp to those of the own layer's picture of this size."""
        comp = self.context.comp
        *groups, own = self.lying()
        matrix = np.eye(3)
        for group in groups:
            matrix = place_of(comp, group, (comp.width, comp.height)) @ matrix
        return place_of(comp, own, size) @ matrix

    def whole_matte(self, owner: MatteOwner, level: int) -> Plane:
        """The own layer's matte, that of one of its steps or of its alpha; `ValueRefused` without one."""
        matte = matte_of(self.own, owner)
        if owner == "alpha":
            return replace(self, own=merged_alone(self.own)).matte_of_step(matte, level)
        if owner is not None:
            return self.matte_of_step(matte, level)
        if self.own.matte is None:
            raise ValueRefused(f"Layer {self.own.name} has no matte.", advice="Make one in its recipe.")
        _, content = self.found("")
        return self._matte(matte, level, self._stepped(content, level))

    def matte_of_step(self, matte: Matte, level: int) -> Plane:
        """For a step of the own layer, or for its alpha: its own channels are read as they came."""
        _, content = self.found("")
        return self._matte(matte, level, content.picture(level), of_step=True)

    def _cached_matte(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        """The layer's matte, kept where it sees nothing of the layer's own steps: they may change at will."""
        if _sees_steps(matte):
            return self._matte(matte, level, own)
        window = own.display_window

        def make() -> PremultipliedPicture:
            return PremultipliedPicture({"A": self._matte(matte, level, own)}, window, window)

        key = content_key(self.matte_key(matte), "plane", level, window.as_list())
        return self.kept(key, make)["A"]

    def _matte(self, matte: Matte, level: int, own: PremultipliedPicture, *, of_step: bool = False) -> Plane:
        if not matte.steady:
            return matte.refined(self._combined(matte, level, own), level)
        planes = [
            names._combined(then, level, names._own_at_frame(level, own, of_step=of_step))
            for names, then in self.frames_around(matte)
        ]
        return matte.refined(matte.steadied(planes), level)

    def _combined(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        if matte.finds_edge:
            return self._edge_found(matte.rough, level, own)
        return combine_parts(matte, own, level, self._part_inputs(matte, level, own))

    def _edge_found(self, matte: Matte, level: int, own: PremultipliedPicture) -> Plane:
        """The edge found in the layer's picture as it came, or after its steps where they change its frame.

        Kept, in files too: it takes long, and what is done to the matte afterwards is changed more often.
        """
        _, content = self.found("")
        came, window = content.picture(level), own.display_window
        same = came.display_window == window
        steps = "" if same and not _sees_steps(matte) else self.steps_key(content.key)

        key = content_key(content.key, self._matte_key(matte), steps, "edge", level, window.as_list())
        lasting = self.sources.lasting
        lasts = content_key(EDITION, key)

        def make() -> PremultipliedPicture:
            found = lasting.get(lasts) if lasting is not None else None
            if found is None:
                found = solve()
            return PremultipliedPicture({"A": found}, window, window)

        def solve() -> Plane:
            rough = combine_parts(matte, own, level, self._part_inputs(matte, level, own))
            try:
                found = found_in(came if same else own, matte, rough, level)
            except ValueRefused as error:  # a frame that shows one side alone is no reason to stop a delivery
                error.advice += " On this frame the rough matte is used as it is."
                self.context.remark(error, self.own)
                return np.clip(rough, 0, 1)
            if lasting is not None:
                lasting.put(lasts, found)
            return found

        return self.kept(key, make)["A"]

    def _own_at_frame(self, level: int, own: PremultipliedPicture, *, of_step: bool) -> PremultipliedPicture:
        """What a matte of the own layer, or of one of its steps, sees of the layer itself at this frame.

        ``own``: the same at the frame that is drawn, for where sizes change on the way.
        """
        _, content = self.found("")
        found = content.picture(level) if of_step else self._stepped(content, level)
        same = found.display_window == own.display_window
        return found if same else own

    def level_seen(self, content: Content, places: Places, level: int) -> int:
        """The level at which the own layer is as fine as where it is read; finer where it is a drawing.

        ``content``: the own layer's. ``level``: of the picture that it is read for.
        """
        across = places.theirs @ np.linalg.inv(places.mine)
        if level <= content.finest() or not is_by_itself(self.own) or is_perspective(across):
            return level
        least = float(np.linalg.svd(across[:2, :2], compute_uv=False)[-1])
        return max(content.finest(), min(level, floor(log2(max(2.0**level * least, 1e-9)) + 1e-9)))

    def own_matrix(self) -> Matrix:
        """As `matrix_to`, of the own layer's content."""
        _, content = self.found("")
        return self.matrix_to(content.size())

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
        there, content = self.found(part.source)
        places, finer = None, level
        if there is not None and part.source and part.read == "placed":
            places = Places(there.matrix_to(content.size()), self.own_matrix(), there.own.transform.filter)
            finer = level if part.extra_channel or part.second else there.level_seen(content, places, level)
        if isinstance(part, ObjectPart):
            picture = self._object_shares(part, content, level)
        elif part.read == "source":
            picture = content.picture(level)
        else:
            picture = self.named(part.source, finer) if part.source else own
        if part.extra_channel and part.extra_channel not in picture.planes:
            extra = self.extra_planes(content, level, (part.extra_channel,))
            picture = with_extra(picture, extra, (part.extra_channel,))
        if places is not None and finer != level:
            # pixels of another level, and so it is as large as it is there
            share = 2.0 ** (level - finer)
            places = places._replace(theirs=np.diag([share, share, 1]) @ places.theirs)
        second = self.named(part.second, level) if part.second else None
        # the same small picture for every level: the screen and the delivery find the same
        survey = None
        if part.surveys:
            width, _ = content.size()
            small = content.picture(max(0, int(log2(max(1.0, width / SURVEYED)))))
            survey = part.survey(whole_picture(small).planes)
        return PartInput(part, picture, places, second, survey)

    def _object_shares(self, part: ObjectPart, content: Content, level: int) -> PremultipliedPicture:
        """The named objects' shares as a plane, halved once they are known: identities cannot be."""
        way = self._way(content, f"{part.ranks}00.R")
        frame = way.frame

        def make() -> PremultipliedPicture:
            known = [c.name for c in self.sources.decoder.probe(frame.element.file).channels]
            ranks = rank_channels(part.ranks, known)
            stored = self.sources.stored(frame.element, frame.number, [n for pair in ranks for n in pair])
            plane = shares_of(part.objects, stored.planes, ranks)
            return PremultipliedPicture(
                {SHARES: plane, "A": plane}, stored.data_window, stored.display_window
            )

        found = self.sources.view(
            frame.element, frame.number, level, ["objects", part.ranks, *part.objects], make
        )
        return found if not way.layers else self._seen_through(way, found, level, "linear")


def _sees_steps(matte: Matte) -> bool:
    """Whether it is made from what the layer's own steps make."""
    seen = (p for p in matte.parts if p.on and isinstance(p, PicturePart))
    return any(not p.source and p.read != "source" for p in seen)


@dataclass(frozen=True)
class _Derived:
    """A content that another was made of; kept under a key of its own."""

    key: str
    content: Content
    make: Callable[[int], PremultipliedPicture]
    names: ResolvedSources

    def size(self) -> tuple[int, int]:
        return self.content.size()

    def known_size(self) -> tuple[int, int] | None:
        return self.content.known_size()

    def picture(self, level: int) -> PremultipliedPicture:
        return self.names.kept(content_key(self.key, level), lambda: self.make(level))

    def finest(self) -> int:
        return self.content.finest()

    def way_to(self, channel: str) -> Way | None:
        return self.content.way_to(channel)


@dataclass(frozen=True)
class _Fetch:
    names: ResolvedSources
    level: int

    def __call__(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        names = self.names
        picture = names.named(name, self.level)
        if not planes:
            return picture
        _, content = names.found(name)
        return with_extra(picture, names.extra_planes(content, self.level, planes), planes)

    def placed(self, name: str, planes: tuple[str, ...], window: Box, /) -> PremultipliedPicture:
        picture = self(name, planes)
        there, content = self.names.found(name)
        if there is None or not name:
            return picture
        back = there.matrix_to(content.size()) @ np.linalg.inv(self.names.own_matrix())
        return placed_whole(whole_picture(picture), back, self.level, window, there.own.transform.filter)

    def unmixed(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        _, content = self.names.found(name)
        return self.names.extra_planes(content, self.level, planes, mixed=False)

    def angle_of_view(self) -> float | None:
        return self.names.angle_of_view()

    def matte(self, matte: Matte, /) -> Plane:
        return self.names.matte_of_step(matte, self.level)


def with_extra(
    picture: PremultipliedPicture, extra: PremultipliedPicture, names: tuple[str, ...]
) -> PremultipliedPicture:
    """The picture with extra planes, over the whole frame."""
    full = whole_frame(picture)
    rest = fit_to(extra, full, "stretch")
    return full.with_planes({**full.planes, **{n: rest[n] for n in names}})
