"""What a layer's steps and mattes name, found: other layers and elements, with keys that change with it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Self

from ..comp import (
    Card,
    Comp,
    Element,
    FramesShown,
    Group,
    GroupAlpha,
    Layer,
    MadeLayer,
    camera_frame,
    element_frames,
    group_frame,
    group_frames,
    layer_shows,
)
from ..comp.layers import AnyLayer, LayerBase, with_copies
from ..comp.tree import path_to
from ..errors import DocumentRefused, NeatVeilError
from ..mattes import Matte, PicturePart
from ..picture import PremultipliedPicture
from ..steps import Step
from ..steps.apply import steps_key
from ..steps.base import FieldStep
from ..steps.foreign import ForeignStep
from ..steps.second_source import SecondSourceStep, SecondStep
from .blended import BlendedFrames
from .cache import content_key
from .content import CompContent, Content, ElementFrame, GroupContent, LayerRow, MadeContent, RenderContext
from .placement import place_key
from .sources import Sources


@dataclass(frozen=True)
class NamedSources:
    """Finds what is named for one frame of a comp.

    ``own``: the layer that asks, as it is at ``frame``, which is a frame of the group that holds it, or of
    the comp. ``root``: the frame of the comp.
    """

    context: RenderContext
    root: int
    frame: int
    own: AnyLayer

    @property
    def sources(self) -> Sources:
        return self.context.sources

    def key(self, steps: Sequence[Step]) -> list[str]:
        """Changes with everything that the steps name."""
        on = [s for s in steps if s.on and not isinstance(s, ForeignStep)]
        seconds = [self._second_key(s) for s in on if isinstance(s, SecondStep) and s.second]
        angles = [str(self.angle_of_view()) for s in on if isinstance(s, FieldStep) and s.by_camera]
        return (
            seconds
            + angles
            + [
                self.matte_key(s.through.matte)
                for s in on
                if s.through.by == "matte" and s.through.matte.works
            ]
        )

    def angle_of_view(self) -> float | None:
        """As of `Fetch.angle_of_view`."""
        comp = self.context.comp
        camera = comp.cameras.get(comp.camera)
        if camera is None:
            return None
        return camera.yfov_at(camera_frame(comp, Card().at(self.frame), camera))

    def _second_key(self, step: SecondStep) -> str:
        key = self.named_key(step.second)
        placed = isinstance(step, SecondSourceStep) and step.fit == "placed"
        if not placed or not step.second.startswith("layer:"):
            return key
        there = self.at_layer(step.second.removeprefix("layer:"))
        return content_key(key, there.places_key(), self.places_key())

    def matte_key(self, matte: Matte) -> str:
        """Changes with everything that the matte is made of."""
        lookups = self.context.lookups
        known = "matte", id(self.own), self.frame, self.root, id(matte)
        if known not in lookups:
            # they are kept with it: while they live no others have their identities
            lookups[known] = (self._matte_key(matte), self.own, matte)
        found: str = lookups[known][0]
        return found

    def _matte_key(self, matte: Matte) -> str:
        if matte.steady:
            found = [names.matte_key(then) for names, then in self.frames_around(matte)]
            return content_key(matte.model_dump_json(), found)
        parts: list[object] = []
        for part in (p for p in matte.parts if p.on and isinstance(p, PicturePart)):
            there, content = self.found(part.source)
            # the layer's own steps, where they count, are in the key that this one is a part of
            whole = part.source.startswith("layer:") and part.read != "source"
            key = self.named_key(part.source) if whole else content.key
            placed = there is not None and part.read == "placed"
            places = [x.places_key() for x in (there, self)] if there and placed else []
            parts.append([key, places, self.named_key(part.second) if part.second else ""])
        return content_key(matte.model_dump_json(), parts)

    def frames_around(self, matte: Matte) -> list[tuple[Self, Matte]]:
        """The frames that a steadied matte looks at, its own in the middle, each with its matte then."""
        original = self.context.comp.layer(self.own.id)
        found = []
        for frame in range(self.frame - matte.steady, self.frame + matte.steady + 1):
            own = self._same_copy(self.context.layer_at(original, frame))
            # the own layer may be without its alpha here, see `merged_alone`
            then = _same_matte(matte, self._same_copy(self.context.layer_at(original, self.frame)), own)
            if isinstance(own, Group) and isinstance(self.own, Group) and own.alpha.by != self.own.alpha.by:
                own = merged_alone(own)  # the matte gives the group's alpha: it cannot see its result
            names = replace(self, root=self.root + frame - self.frame, frame=frame, own=own)
            found.append((names, then.model_copy(update={"steady": 0})))
        return found

    def _same_copy(self, layer: AnyLayer) -> AnyLayer:
        """Of the own layer as it is at another frame the copy that the own one is, where it is repeated."""
        drawn = with_copies(layer)
        if drawn is layer or self.own.repeat is not None or not isinstance(drawn, Group):
            return layer
        return next(x for x in drawn.layers if x._copy == self.own._copy)

    def kept(self, key: str, make: Callable[[], PremultipliedPicture]) -> PremultipliedPicture:
        """As of `RenderContext.kept`."""
        return self.context.kept(key, make)

    def steps_key(self, key: str) -> str:
        """Changes with the own layer's steps and everything that they name; ``key``: of its frame."""
        steps = [s for s in self.own.steps if s.on]
        return content_key(key, [s.model_dump_json() for s in steps], self.frame, self.key(steps))

    def named_key(self, name: str) -> str:
        """Changes with what the name stands for."""
        there, content = self.found(name)
        if there is None:
            return content.key
        found = there.steps_key(content.key)
        matte = there.own.cut
        return content_key(found, there.matte_key(matte)) if matte else found

    def found(self, name: str) -> tuple[Self | None, Content]:
        """What a name stands for: a layer, as what it names in turn is found, and its content.

        No layer for an element.
        """
        there: Self | None = None
        timed: AnyLayer
        if not name or name.startswith("layer:"):
            there = self if not name else self.at_layer(name.removeprefix("layer:"))
            timed = there.own
        else:
            timed = Layer(id="second", name=name, element=name)
        if isinstance(timed, Layer) and not self.context.comp.knows(timed.element):
            raise DocumentRefused(
                f"Layer {self.own.name}: a step or matte takes {name or 'its element'}, "
                "which the project has not.",
                advice="Choose another source there, or take it out.", where=self.own.name,
            )  # fmt: skip
        return there, (there or self).content_or_held(timed)

    def content_or_held(self, layer: AnyLayer) -> Content:
        """As `content`; where the layer ends blank its first or last frame stands in."""
        found = self.content(layer)
        if found is None:
            found = self.content(layer.model_copy(update={"beyond": "hold"}))
            assert found is not None
        return found

    def content(self, layer: AnyLayer) -> Content | None:
        """What a layer shows at the frame before its steps; None where it ends blank."""
        comp = self.context.comp
        if isinstance(layer, Layer):
            source = comp.source(layer.element)
            shown = element_frames(comp, layer, source, self.frame)
            if isinstance(source, Comp):
                return shown and self._at(shown, lambda number: self._comp_frame(source, number))
            return shown and self._at(shown, lambda number: self.element_frame(source, number))
        if layer.of_beneath:
            return self._beneath(layer)
        if isinstance(layer, MadeLayer):
            key = content_key("made", comp.width, comp.height, comp.working, layer.made.model_dump_json())
            return MadeContent(self.context, layer.made, key)
        return self._group_at(layer, group_frames(comp, layer, self.frame))

    def _group_at(self, group: Group, shown: FramesShown | None) -> Content | None:
        def at(inner: int) -> GroupContent:
            known = "group", id(group), self.root, self.frame, inner
            if known not in self.context.lookups:
                self.context.lookups[known] = (self._group_content(group, inner), group)
            found: GroupContent = self.context.lookups[known][0]
            return found

        return shown and self._at(shown, at)

    def _comp_frame(self, comp: Comp, number: int) -> CompContent:
        """A frame of another comp; all its layers are found once for one picture."""
        lookups = self.context.lookups
        known = "comp", id(comp), number
        if known not in lookups:
            context = replace(self.context, comp=comp, lookups={}, inside=True, whole=None)
            rows = layer_rows(
                context, [x for x in comp.layers if layer_shows(comp, x, number)], number, number
            )
            working = self.context.comp.working
            key = content_key("comp", comp.width, comp.height, comp.working, working, [r.key for r in rows])
            lookups[known] = (CompContent(context, number, rows, key, working), comp)
        found: CompContent = lookups[known][0]
        return found

    def _beneath(self, layer: AnyLayer) -> Content:
        """The layers beneath one in its group, or in the comp, merged as these are."""
        lookups = self.context.lookups
        known = "beneath", layer.id, self.root, self.frame
        if known not in lookups:
            # where layers are looked at alone, those beneath are still what this one is made of
            comp = self.context.whole or self.context.comp
            path = path_to(comp.layers, layer.id)
            holder = self._down(path)[0][-1] if len(path) > 1 else None
            beside = comp.layers if holder is None else holder.layers
            ids = [x.id for x in beside]
            below = [x for x in beside[: ids.index(layer.id)] if layer_shows(comp, x, self.frame)]
            rows = layer_rows(self.context, below, self.frame, self.root)
            found: Content
            if holder is None:
                key = content_key("comp", comp.width, comp.height, comp.working, [r.key for r in rows])
                found = CompContent(self.context, self.frame, rows, key, comp.working)
            else:
                found = self._merged(holder, self.frame, rows)
            lookups[known] = found
        content: Content = lookups[known]
        return content

    def _at(self, shown: FramesShown, content: Callable[[int], Content]) -> Content:
        if not shown.share:
            return content(shown.number)
        return BlendedFrames(self.context, content(shown.number), content(shown.after), shown.share)

    def _group_content(self, group: Group, inner: int) -> GroupContent:
        def rows_of(layers: Sequence[AnyLayer]) -> list[LayerRow]:
            return layer_rows(self.context, layers, inner, self.root)

        # hidden members are looked at where somebody takes a channel of theirs: one that is gone hurts nobody
        shown = rows_of([x for x in group.layers if layer_shows(self.context.comp, x, inner)])
        return self._merged(group, inner, shown, lambda: rows_of(group.layers))

    def _merged(
        self, group: Group, inner: int, shown: list[LayerRow],
        members: Callable[[], list[LayerRow]] | None = None,
    ) -> GroupContent:  # fmt: skip
        """These rows of a group inside its alpha; ``members``: gives those that have channels, if others."""
        alpha_row = None
        alpha_key = ""
        if group.alpha.by == "member":
            givers = [x for x in group.layers if x.id == group.alpha.member]
            if not givers:
                raise DocumentRefused(
                    "Its alpha is that of a member which is not in the group any more.",
                    advice="Choose another member for its alpha, or take it from all members.",
                )
            alpha_row = next(iter(layer_rows(self.context, givers, inner, self.root)), None)
            alpha_key = alpha_row.key if alpha_row else "blank"
        elif group.alpha.by == "matte" and group.alpha.matte is not None:
            alpha_key = replace(self, own=merged_alone(group)).matte_key(group.alpha.matte)
        comp = self.context.comp
        wide = any(roams(g) for g in [*self._path(group.id)[:-1], group] if isinstance(g, Group))
        key = content_key(
            "group", comp.width, comp.height, wide, [r.key for r in shown], group.alpha.by, alpha_key
        )
        return GroupContent(
            self.context, group, self.root, self.frame, inner, wide, shown,
            members or (lambda: shown), alpha_row, key,
        )  # fmt: skip

    def element_frame(self, element: Element, number: int) -> ElementFrame:
        """A frame of an element; its key is asked once for one picture of the comp."""
        lookups = self.context.lookups
        known = "source", id(element), number
        if known not in lookups:
            working = self.context.comp.working
            lookups[known] = (element, self.sources.frame_of(element, number, working))
        found: ElementFrame = lookups[known][1]
        return found

    def at_layer(self, layer_id: str) -> Self:
        """What another layer names, as it is now: at this frame if it lies beside the own one, else at the
        frame at which the groups that hold it show it."""
        path = self._path(layer_id)
        if not path:
            raise DocumentRefused(
                f"Layer {self.own.name}: a step or matte takes the layer {layer_id}, which is not in the "
                "comp any more.",
                advice="Choose another source there, or take it out.", where=self.own.name,
            )  # fmt: skip
        frame = self.frame
        if [x.id for x in path[:-1]] != [x.id for x in self._path(self.own.id)[:-1]]:
            frame = self._down(path)[1]
        known = "layer", layer_id, frame
        if known not in self.context.lookups:
            self.context.lookups[known] = with_copies(self.context.layer_at(path[-1], frame))
        return replace(self, frame=frame, own=self.context.lookups[known])

    def lying(self) -> list[AnyLayer]:
        """The groups that hold the own layer, the outermost first, and itself, each as it is now."""
        return [*self._down(self._path(self.own.id))[0], self.own]

    def places_key(self) -> list[list[object]]:
        return [place_key(self.context.comp, x) for x in self.lying()]

    def _down(self, path: list[AnyLayer]) -> tuple[list[Group], int]:
        """The groups of a path, each as it is when the comp is at its frame, and the frame in the last."""
        frame, found = self.root, []
        for group in path[:-1]:
            assert isinstance(group, Group)
            now = self.context.layer_at(group, frame)
            assert isinstance(now, Group)
            found.append(now)
            inner = group_frame(self.context.comp, now, frame)
            if inner is None:
                inner = group_frame(self.context.comp, now.model_copy(update={"beyond": "hold"}), frame)
                assert inner is not None
            frame = inner
        return found, frame

    def _path(self, layer_id: str) -> list[AnyLayer]:
        known = "path", layer_id
        if known not in self.context.lookups:
            self.context.lookups[known] = path_to(self.context.comp.layers, layer_id)
        found: list[AnyLayer] = self.context.lookups[known]
        return found


def layer_rows(context: RenderContext, layers: Sequence[AnyLayer], frame: int, root: int) -> list[LayerRow]:
    """The layers as they are at a frame, with what they show; without those that end blank there.

    One that cannot be had is reported and left out.
    """
    rows = []
    for layer in (with_copies(context.layer_at(x, frame)) for x in layers):
        try:
            names = NamedSources(context, root, frame, layer)
            content = names.content(layer)
            if content is None:
                continue
            steps = steps_key([s for s in layer.steps if s.on], frame)
            drawn = content_key(
                content.key, steps, place_key(context.comp, layer), layer.operator, layer.opacity,
                names.key(layer.steps), layer.cut and names.matte_key(layer.cut),
            )  # fmt: skip
        except NeatVeilError as error:
            context.report(error, layer)
            continue
        rows.append(LayerRow(layer, content, drawn))
    return rows


def merged_alone(layer: AnyLayer) -> AnyLayer:
    """A group with the alpha that merging its members gives."""
    return layer.model_copy(update={"alpha": GroupAlpha()}) if isinstance(layer, Group) else layer


def roams(group: Group) -> bool:
    """Whether what lies beyond the group's frame may come into view: see `groups.render_group`."""
    return not group.transform.at_rest or group.card is not None or any(s.on for s in group.steps)


def _same_matte(matte: Matte, now: LayerBase, then: LayerBase) -> Matte:
    """The matte of a layer, of one of its steps or of its alpha as it is at another frame."""
    if then.matte is not None and matte == now.matte:
        return then.matte
    for i, step in enumerate(now.steps):
        if not isinstance(step, ForeignStep) and step.through.matte == matte:
            return then.steps[i].through.matte
    if isinstance(now, Group) and isinstance(then, Group) and then.alpha.matte and matte == now.alpha.matte:
        return then.alpha.matte
    return matte
