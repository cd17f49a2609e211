"""A whole comp: which frames are seen, each layer's picture, where it lies, and how it meets the pile."""

from __future__ import annotations

from math import floor

import numpy as np
import scipy.ndimage as ndi
from neatveil.channels.identity import name_hash
from neatveil.comp import Layer
from neatveil.comp.layers import sources_named

from . import cards, made, mattes, steps, uv
from .copies import copies
from .pictures import DRAWN
from .pixels import fitted, halved, merged, read, sampled, warped
from .time import Moment, at, frames_of, frames_or_held, is_group, nearest, seen
from .working import brought, with_colours


class Reference:
    """``stored``: files by name, each a list of ``(H, W, 4)`` frames; ``extra``: further planes of some.

    ``least``: what is less in a layer, and after each of its steps, is taken for nothing, and ``trace`` lies
    around what it covers; to find out where that makes a difference.
    """

    def __init__(self, comp, stored, extra, least=0.0, trace=0.0):
        self.comp = with_colours(comp)
        self.stored, self.extra, self.least, self.trace = stored, extra, least, trace

    def picture(self, number, level=0):
        pile = self.pile(self.comp.layers, Moment(number, number), level, (0, 0), None)
        return brought(pile, self.comp.working, "linear")

    def frame(self, level):
        return [-(-n // 2**level) for n in (self.comp.width, self.comp.height)]

    def pile(self, layers, number, level, margin, alpha):
        """Layers merged over nothing, over the comp's frame and a margin; inside an alpha if there is one."""
        width, height = self.frame(level)
        pile = np.zeros((height + 2 * margin[1], width + 2 * margin[0], 4))
        for layer in (at(x, number) for x in layers):
            if layer.repeat is not None:
                if not seen(self.comp, layer, number):
                    continue
                front = self.crowd(layer, number, level, margin)
                front = front if alpha is None else inside(front, alpha)
                pile = merged(layer.operator, front, pile, layer.opacity)
                continue
            if seen(self.comp, layer, number) and self.frame_of(layer, number) is not None:
                front = self.placed(layer, number, level, margin)
                if alpha is not None:
                    front = inside(front, alpha)
                pile = merged("copy" if adjusts(layer) else layer.operator, front, pile, layer.opacity)
        if alpha is None:
            return pile
        return np.concatenate([pile[..., :3] * np.where(alpha > 0, alpha, 1), alpha], -1)

    def crowd(self, layer, number, level, margin):
        """A layer's copies merged over each other."""
        width, height = self.frame(level)
        pile = np.zeros((height + 2 * margin[1], width + 2 * margin[0], 4))
        for copy in copies(layer):
            if self.frame_of(copy, number) is not None:
                pile = merged("over", self.placed(copy, number, level, margin), pile, copy.opacity)
        return pile

    def group(self, group, number, level, margin=(0, 0)):
        """A group as it is seen: at one frame, or at two that are mixed."""
        return sum(
            share * self.group_at(group, number, Moment(frame, number.root), level, margin)
            for frame, share in frames_or_held(self.comp, group, number)
        )

    def group_at(self, group, number, inner, level, margin):
        """A group's members merged at a frame of theirs, with the alpha that it is given."""
        if group.alpha.by == "members":
            return self.pile(group.layers, inner, level, margin, None)
        if group.alpha.by == "member":
            member = next(at(x, inner) for x in group.layers if x.id == group.alpha.member)
            if member.repeat is not None:
                alpha = self.crowd(member, inner, level, margin)[..., 3:]
            else:
                blank = self.frame_of(member, inner) is None
                alpha = self.placed(member, inner, level, margin)[..., 3:] * (not blank)
        else:
            bare = group.model_copy(update={"alpha": type(group.alpha)()})
            own = self.group(bare, number, level)
            found = self.matte(group, "alpha", number, level, own, {})
            alpha = np.pad(found, [(margin[1],) * 2, (margin[0],) * 2])[..., None]
        return self.pile(group.layers, inner, level, margin, np.where(alpha < self.least, 0, alpha))

    def frame_of(self, layer, number):
        """The frame that is seen most; None where it ends blank."""
        shown = frames_of(self.comp, layer, number)
        return nearest(shown) if shown else None

    def element(self, key, frame, level):
        if key in self.comp.comps:
            inner = Reference(self.comp.comps[key], self.stored, self.extra, self.least, self.trace)
            return brought(inner.picture(frame, level), "linear", self.comp.working)
        element = self.comp.elements[key]
        codes = self.stored[element.file][frame - element.first]
        if level < 0:
            codes = DRAWN[element.file](2**-level)
        picture = read(codes, element.reading, element.encoding)
        for _ in range(level):
            picture = halved(picture)
        return brought(picture, "linear", self.comp.working)

    def content(self, layer, number, level):
        """What a layer shows, before its steps."""
        if is_group(layer):
            return self.group(layer, number, level)
        if of_beneath(layer):
            return self.beneath(layer, number, level)
        if layer.kind == "made":
            return brought(made.picture(layer.made, self.size(layer), level), "linear", self.comp.working)
        return sum(
            share * self.element(layer.element, frame, level)
            for frame, share in frames_or_held(self.comp, layer, number)
        )

    def beneath(self, layer, number, level):
        """The layers beneath one, merged as its group, or the comp, merges them."""
        path = self.path(layer.id)
        holder = path[-2] if len(path) > 1 else None
        beside = self.comp.layers if holder is None else holder.layers
        place = [x.id for x in beside].index(layer.id)
        if holder is None:
            return self.pile(beside[:place], number, level, (0, 0), None)
        # whoever gives the group's alpha does so, shown or not
        hidden = [x.model_copy(update={"shown": False}) for x in beside[place + 1 :]]
        group = at(holder, self.times(path, number)[-2])
        group = group.model_copy(update={"layers": (*beside[:place], *hidden)})
        return self.group_at(group, None, number, level, (0, 0))

    def layer_frame(self, layer, number):
        """As `frame_of`; where it ends blank its first or last frame stands in for what is named of it."""
        return nearest(frames_or_held(self.comp, layer, number))

    def extra_plane(self, key, name, level):
        """A further plane of an element, as stored, over the whole frame."""
        plane = self.extra[self.comp.elements[key].file][name].astype(float)[..., None]
        for _ in range(level):
            plane = halved(plane)
        return plane[..., 0]

    def stepped(self, layer, number, level):
        """After its steps, before its matte: as the matte sees it, as it is cut, and its further planes."""
        base = self.content(layer, number, level)
        done, extra = self.run(base, layer, number, level)
        if layer.cut is None or layer.cut.screen_key is None:
            return done, done, extra
        key = layer.cut.screen_key
        plate = self.plate(key, layer, number, level, base)
        clean = mattes.without_screen(base, key, plate, self.full(layer, number))
        return done, self.run(clean, layer, number, level)[0], extra

    def full(self, layer, number):
        return self.content(layer, number, 0)

    def plate(self, part, layer, number, level, like):
        """The clean plate of a key, over a picture's frame; None where it needs none."""
        if not part.second:
            return None
        return fitted(self.named(part.second, layer, number, level), like.shape[:2], part.fit)

    def run(self, picture, layer, number, level):
        """The layer's steps: the picture, and the further planes that they have changed."""
        find = Find(self, layer, number, level)
        for step in layer.steps:
            if step.on:
                picture = steps.done(picture, step, level, find)
                if self.least:
                    picture = np.where(np.abs(picture) < self.least, 0, picture)
        return picture, find.extra

    def cut(self, layer, number, level):
        """After its steps and cut by its matte."""
        seen_by_matte, picture, extra = self.stepped(layer, number, level)
        if layer.cut is None:
            return picture
        matte = self.matte(layer, None, number, level, seen_by_matte, extra)
        if adjusts(layer):
            before = self.content(layer, number, level)
            return before + (picture - before) * matte[..., None]
        done = picture * matte[..., None]
        if layer.cut.edge_colour == "inside":
            return mattes.edge_from_inside(done, picture, matte, layer.cut.inside)
        return done

    def matte(self, layer, step, number, level, own, extra):
        """The layer's matte, or that of one of its steps by its place; ``own``: what it sees of the layer."""
        matte = matte_of(layer, step)
        if step == "alpha":  # what gives a group its alpha does not see it
            layer = layer.model_copy(update={"alpha": type(layer.alpha)()})
        if not matte.works:
            return np.ones(own.shape[:2])
        if not matte.steady:
            return mattes.refined(self.joined(layer, matte, number, level, own, extra), matte, level)
        planes = []
        for later in range(-matte.steady, matte.steady + 1):
            frame = Moment(number + later, number.root + later)
            then = at(self.path(layer.id)[-1], frame)
            if then.repeat is not None and layer.repeat is None:  # the same copy, then
                same = copies(at(self.path(layer.id)[-1], number))
                place = [(c.offset, c.transform) for c in same].index((layer.offset, layer.transform))
                then = copies(then)[place]
            bare = then.model_copy(update={"alpha": type(then.alpha)()}) if step == "alpha" else then
            base = self.content(bare, frame, level)
            picture, planes_then = (base, {}) if step is not None else self.run(base, then, frame, level)
            planes.append(self.joined(bare, matte_of(then, step), frame, level, picture, planes_then))
        return mattes.refined(np.median(planes, axis=0), matte, level)

    def joined(self, layer, matte, number, level, own, extra):
        rows = []
        for part in matte.parts:
            if not part.on:
                continue
            if part.kind in {"shape", "paint"}:
                rows.append((part.combine, *mattes.drawn(part, own.shape[1::-1], level)))
            else:
                rows.append((part.combine, self.of_picture(layer, part, number, level, own, extra), None))
        rough = mattes.joined(rows) if rows else np.ones(own.shape[:2])
        if matte.edge != "natural" or not matte.works:
            return rough
        came = self.content(layer, number, level)
        seen = came if came.shape == own.shape else own
        return mattes.edge_found(seen, rough, max(0.5, matte.band * 0.5**level), matte.trust)

    def of_picture(self, layer, part, number, level, own, extra):
        """What a part keeps of a picture, over the layer's own frame."""
        other, then = self.layer(part.source, layer, number)
        if part.kind == "object":
            values = self.objects(part, layer, level)
        else:
            finer = self.level_seen(part, (other, then), (layer, number), level)
            values = self.values(part, layer, other, then, number, finer, own, extra)
        if placed_layer(part):
            there, here = (other, then), (layer, number)
            values = self.where_it_lies(values[..., None], there, here, own, level, finer)[..., 0]
        else:
            values = fitted(values[..., None], own.shape[:2], part.fit)[..., 0]
        if part.kind == "object":
            return 1 - np.clip(values, 0, 1) if part.inverted else np.clip(values, 0, 1)
        return mattes.counted(values, part) if part.kind == "channel" else mattes.keyed(values, part)

    def level_seen(self, part, there, here, level):
        """The level that a part reads a layer at: as fine as it lies there, where it is drawn at any size."""
        if not placed_layer(part) or part.kind == "object" or part.extra_channel or part.second:
            return level
        back = self.lies(*there) @ np.linalg.inv(self.lies(*here))
        if np.abs(back[2, :2]).max() > 1e-12 * abs(back[2, 2]):
            return level
        least = np.linalg.svd(back[:2, :2] / back[2, 2])[1].min()
        return max(self.finest(there[0]), min(level, int(np.floor(np.log2(2.0**level * least) + 1e-9))))

    def where_it_lies(self, picture, there, here, own, level, finer):
        """A layer's picture as it lies in the comp, over another one's; each a layer and its frame.

        ``finer``: the picture's own level.
        """
        back = self.lies(*there) @ np.linalg.inv(self.lies(*here))
        back = np.diag([0.5**finer] * 2 + [1]) @ back @ np.diag([2.0**level] * 2 + [1])
        y, x = np.mgrid[: own.shape[0], : own.shape[1]] + 0.5
        u, v, w = (back[i, 0] * x + back[i, 1] * y + back[i, 2] for i in range(3))
        u, v = (np.where(w > 0, c / np.where(w > 0, w, 1), -1e6) - 0.5 for c in (u, v))
        return sampled(picture, u, v, there[0].transform.filter)

    def values(self, part, layer, other, then, number, level, own, extra):
        """What a channel or a key finds in its picture, before it is counted."""
        if part.read != "source" or (part.source and not part.source.startswith("layer:")):
            picture = self.named(part.source, layer, number, level) if part.source else own
        else:
            picture = self.content(other, then, level)
        if part.kind == "key":
            plate = self.plate(part, layer, number, level, picture)
            return mattes.key_share(picture, part, plate, self.full(other, then))
        if "." in part.channel:
            changed = extra if part.read != "source" else {}
            own_plane = changed.get(part.channel)
            return self.extra_plane(layer.element, part.channel, level) if own_plane is None else own_plane
        return mattes.picked(picture, part)

    def objects(self, part, layer, level):
        """The share that named objects cover, rank by rank."""
        total = 0.0
        for identity, coverage in (("R", "G"), ("B", "A")):
            ids = self.extra[layer.element][f"{part.ranks}00.{identity}"]
            hit = np.isin(ids.view(np.uint32), [name_hash(n) for n in part.objects])
            total = total + hit * self.extra[layer.element][f"{part.ranks}00.{coverage}"].astype(float)
        total = total[..., None]
        for _ in range(level):
            total = halved(total)
        return total[..., 0]

    def layer(self, name, own, number):
        """The layer of a name as it is then, and the frame it is seen at; an element lies as the layer."""
        if not name.startswith("layer:"):
            return own, number
        path, beside = self.path(name[6:]), self.path(own.id)
        if [x.id for x in path[:-1]] == [x.id for x in beside[:-1]]:
            return at(path[-1], number), number
        then = self.times(path, number)[-1]
        return at(path[-1], then), then

    def path(self, layer_id, layers=None):
        """The groups that hold a layer, and itself."""
        for layer in self.comp.layers if layers is None else layers:
            if layer.id == layer_id:
                return [layer]
            if is_group(layer) and (found := self.path(layer_id, layer.layers)):
                return [layer, *found]
        return []

    def times(self, path, number):
        """The frames at which each of a path is seen."""
        found = [Moment(number.root, number.root)]
        for group in path[:-1]:
            found.append(Moment(self.layer_frame(at(group, found[-1]), found[-1]), number.root))
        return found

    def lies(self, layer, number):
        """``(3, 3)``: from the comp's points to the layer's, through the groups that hold it."""
        path = self.path(layer.id)
        matrix = np.eye(3)
        for group, then in zip(path[:-1], self.times(path, number), strict=False):
            matrix = self.place(at(group, then), then, 0, 0) @ matrix
        return self.place(layer, number, 0, 0) @ matrix

    def named(self, name, own, number, level):
        if not name.startswith("layer:"):
            timed = Layer(id="named", name="named", element=name)
            return self.element(name, self.frame_of(timed, number), level)
        layer, then = self.layer(name, own, number)
        return (
            self.cut(layer, then, level) if layer.repeat is None else self.crowd(layer, then, level, (0, 0))
        )

    def size(self, layer):
        if is_group(layer):
            return self.comp.width, self.comp.height
        if of_beneath(layer):
            return self.comp.width, self.comp.height
        if layer.kind == "made":
            return layer.made.canvas_width or self.comp.width, layer.made.canvas_height or self.comp.height
        if layer.element in self.comp.comps:
            inner = self.comp.comps[layer.element]
            return inner.width, inner.height
        height, width = self.stored[self.comp.elements[layer.element].file][0].shape[:2]
        return width, height

    def place(self, layer, number, level, source_level):
        """``(3, 3)``: from corner coordinates of the comp at a level to those of the source at another."""
        down, up = np.diag([0.5**source_level] * 2 + [1]), np.diag([2.0**level] * 2 + [1])
        if layer.card is None:
            return down @ self.flat(layer, self.size(layer)) @ up
        flat = self.flat(layer, (self.comp.width, self.comp.height))
        card = cards.back_to_card(self.comp, layer.card, number, self.size(layer))
        return down @ card @ flat @ up

    def flat(self, layer, size):
        """From the comp to a layer that is flat in it, by its transform."""
        comp, place, (w, h) = self.comp, layer.transform, size
        c, s = np.cos(np.radians(place.rotation)), np.sin(np.radians(place.rotation))
        x = (comp.width - w) // 2 + w / 2 + place.x
        y = (comp.height - h) // 2 + h / 2 + place.y
        forth = np.array([[1, 0, x], [0, 1, y], [0, 0, 1.0]]) @ np.array(
            [[c * place.scale, -s * place.scale, 0], [s * place.scale, c * place.scale, 0], [0, 0, 1]]
        ) @ np.array([[1, 0, -w / 2], [0, 1, -h / 2], [0, 0, 1]])  # fmt: skip
        return np.linalg.inv(forth)

    def finest(self, layer):
        """The lowest level that a layer is drawn at; what is made, or a drawing, is as large as seen."""
        if is_group(layer) or not alone(layer):
            return 0
        if layer.kind == "made":
            return 0 if of_beneath(layer) else -4
        element = self.comp.elements.get(layer.element)
        return -8 if element is not None and element.file in DRAWN else 0

    def placed(self, layer, number, level, margin):
        """Read at the level whose pixels come nearest below those that are asked for."""
        finest = self.finest(layer)
        source_level = max(finest, floor(np.log2(2.0**level / layer.transform.scale) + 1e-9))
        samples = None
        if layer.card is not None:
            full = self.place(layer, number, 0, 0)
            source_level, samples = cards.sampling(self.comp, full, self.size(layer), level, finest)
        back = self.place(layer, number, level, source_level) @ shift(-margin[0], -margin[1])
        if is_group(layer) and not layer.steps and layer.cut is None:
            # what lies beyond the frame comes along, as far as half its size
            beyond = [n // 2 for n in self.frame(source_level)]
            picture = self.group(layer, number, source_level, beyond)
            back = shift(*beyond) @ back
        else:
            picture = self.cut(layer, number, source_level)
        box = [n + 2 * m for n, m in zip(self.frame(level), margin, strict=True)]
        if samples is not None:
            done = cards.seen(picture, back, box, samples, layer.transform.filter)
        elif (
            np.abs(back[:2, :2] - np.eye(2)).max() < 1e-9
            and np.abs(back[:2, 2] - np.round(back[:2, 2])).max() < 1e-6
        ):
            done = warped(picture, np.round(back), box, "nearest")
        else:
            done = warped(picture, back, box, layer.transform.filter)
        done[np.abs(done) < self.least] = 0
        if self.trace:
            beside = ndi.maximum_filter(np.abs(done), (3, 3, 1)) > 0
            done[beside & (done == 0)] = self.trace
        return done


class Find:
    """What a step names, for one layer at one frame and level.

    ``extra``: further planes that steps before have changed.
    """

    def __init__(self, reference, layer, number, level):
        self.reference, self.own, self.number, self.level = reference, layer, number, level
        self.extra = {}

    def picture(self, name, like, fit):
        r = self.reference
        found = r.named(name, self.own, self.number, self.level)
        if fit == "placed" and name.startswith("layer:"):
            there = r.layer(name, self.own, self.number)
            return r.where_it_lies(found, there, (self.own, self.number), like, self.level)
        return fitted(found, like.shape[:2], "centre" if fit == "placed" else fit)

    def plane(self, source, name, like, fit):
        """A further plane of the layer itself (empty), or of an element."""
        if not source and name in self.extra:
            return self.extra[name]
        found = self.reference.extra_plane(source or self.own.element, name, self.level)
        how = ("centre" if fit == "placed" else fit) if source else "stretch"
        return fitted(found[..., None], like.shape[:2], how)[..., 0]

    def named(self, name):
        return self.reference.named(name, self.own, self.number, self.level)

    def unmixed(self, name):
        """A plane of the layer's element, made smaller without mixing."""
        if name in self.extra:
            return self.extra[name]
        plane = self.reference.extra_plane(self.own.element, name, 0)
        return uv.thinned(plane, self.level) if self.level else plane

    def matte(self, matte):
        r, own = self.reference, self.own
        step = next(i for i, s in enumerate(own.steps) if s.through.matte is matte)
        base = r.content(own, self.number, self.level)
        return r.matte(own, step, self.number, self.level, base, {})


def alone(layer):
    """Whether a layer's steps and mattes take nothing else, and no plane of a file."""
    return not sources_named(layer) and not any(s.extra_channel for s in layer.steps if s.on)


def placed_layer(part):
    """Whether a part of a matte reads another layer as it lies in the comp."""
    return bool(part.source) and part.read == "placed" and part.source.startswith("layer:")


def of_beneath(layer):
    return layer.kind == "made" and layer.made.kind == "beneath"


def adjusts(layer):
    """Whether it takes the place of what lies beneath: unmoved and laid over."""
    return of_beneath(layer) and layer.card is None and layer.operator == "over" and layer.transform.at_rest


def shift(x, y):
    return np.array([[1, 0, x], [0, 1, y], [0, 0, 1.0]])


def inside(front, alpha):
    """A picture as its share of an alpha: opaque where it has that alpha, cut where that is 0."""
    own = front[..., 3:]
    most = np.maximum(own, alpha)
    share = 1 / np.where(most > 0, most, 1)
    return front * np.where((alpha <= 0) & (own > 0), 0, share)


def matte_of(layer, step):
    if step == "alpha":
        return layer.alpha.matte
    return layer.matte if step is None else layer.steps[step].through.matte
