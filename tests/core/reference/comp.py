"""A whole comp: which frames are seen, each layer's picture, where it lies, and how it meets the pile."""

from __future__ import annotations

from fractions import Fraction
from math import floor

import numpy as np

from . import mattes, steps
from .pixels import halved, merged, read, sampled, warped


class Reference:
    """``stored``: files by name, each a list of ``(H, W, 4)`` frames."""

    def __init__(self, comp, stored):
        self.comp, self.stored = comp, stored

    def picture(self, number, level=0):
        comp = self.comp
        box = [-(-n // 2**level) for n in (comp.width, comp.height)]
        units, last = [], None
        for layer in comp.layers:
            now = layer.at(number)
            if not seen(comp, now, number) or self.frame_of(now, number) is None:
                continue
            if now.group and now.group == last:
                units[-1].append(now)
            else:
                units.append([now])
            last = now.group
        pile = np.zeros((box[1], box[0], 4))
        for unit in units:
            if unit[0].group:
                group = np.zeros_like(pile)
                for layer in unit:
                    group = merged(
                        layer.operator, self.placed(layer, number, level, box), group, layer.opacity
                    )
                pile = merged("over", group, pile, 1.0)
            else:
                front = self.placed(unit[0], number, level, box)
                pile = merged(unit[0].operator, front, pile, unit[0].opacity)
        return pile

    def frame_of(self, layer, number):
        """The element's frame that is seen, by exact fractions of time; None where it ends blank."""
        comp, element = self.comp, self.comp.elements[layer.element]
        if element.still:
            return element.first
        pace = Fraction(layer.speed).limit_denominator(100000)
        rate = (element.rate or comp.rate) / comp.rate
        index = floor((number - comp.first - layer.offset) * pace * rate)
        count = element.last - element.first + 1
        if not 0 <= index < count:
            if layer.ends == "blank":
                return None
            if layer.ends == "hold":
                index = min(max(index, 0), count - 1)
            elif layer.ends == "loop" or count == 1:
                index %= count
            else:
                index %= 2 * count - 2
                index = index if index < count else 2 * count - 2 - index
        return element.last - index if layer.reverse else element.first + index

    def element(self, key, frame, level):
        element = self.comp.elements[key]
        picture = read(self.stored[element.file][frame - element.first], element.reading, element.encoding)
        for _ in range(level):
            picture = halved(picture)
        return picture

    def layer_frame(self, layer, number):
        """As `frame_of`; where it ends blank its first or last frame stands in for what is named of it."""
        found = self.frame_of(layer, number)
        return self.frame_of(layer.model_copy(update={"ends": "hold"}), number) if found is None else found

    def stepped(self, layer, number, level):
        """After its steps, before its matte."""
        base = self.element(layer.element, self.layer_frame(layer, number), level)
        if layer.cut is not None and layer.cut.card is not None:
            base_for_cut = mattes.without_screen(base, layer.cut.card)
            return self.run(base, layer, number, level), self.run(base_for_cut, layer, number, level)
        done = self.run(base, layer, number, level)
        return done, done

    def run(self, picture, layer, number, level):
        find = Find(self, layer, number, level)
        for step in layer.steps:
            if step.on:
                picture = steps.done(picture, step, level, find)
        return picture

    def cut(self, layer, number, level):
        """After its steps and cut by its matte."""
        seen_by_matte, cut = self.stepped(layer, number, level)
        if layer.cut is None:
            return cut
        return cut * self.matte(layer, layer.cut, number, level, seen_by_matte)[..., None]

    def matte(self, layer, matte, number, level, own, *, of_step=False):
        if not matte.works:
            return np.ones(own.shape[:2])
        if not matte.steady:
            return mattes.refined(self.joined(layer, matte, number, level, own), matte, level)
        planes = []
        for frame in range(number - matte.steady, number + matte.steady + 1):
            then = next(x for x in self.comp.layers if x.id == layer.id).at(frame)
            base = self.element(then.element, self.layer_frame(then, frame), level)
            picture = base if of_step else self.run(base, then, frame, level)
            planes.append(self.joined(then, then.cut, frame, level, picture))
        return mattes.refined(np.median(planes, axis=0), matte, level)

    def joined(self, layer, matte, number, level, own):
        rows = []
        for part in matte.parts:
            if not part.on:
                continue
            if part.kind in {"shape", "paint"}:
                rows.append((part.how, *mattes.drawn(part, own.shape[1::-1], level)))
            else:
                rows.append((part.how, self.of_picture(layer, part, number, level, own), None))
        return mattes.joined(rows) if rows else np.ones(own.shape[:2])

    def of_picture(self, layer, part, number, level, own):
        other = self.layer(part.source, layer, number)
        if part.read == "source":
            picture = self.element(other.element, self.layer_frame(other, number), level)
        else:
            picture = self.named(part.source, layer, number, level) if part.source else own
        values = mattes.picked(picture, part) if part.kind == "channel" else mattes.key_share(picture, part)
        if part.source and part.read == "placed" and part.source.startswith("layer:"):
            back = self.place(other, 0, 0) @ np.linalg.inv(self.place(layer, 0, 0))
            share = np.diag([0.5**level, 0.5**level, 1])
            back = share @ back @ np.linalg.inv(share)
            y, x = np.mgrid[: own.shape[0], : own.shape[1]] + 0.5
            u, v = (back[i, 0] * x + back[i, 1] * y + back[i, 2] - 0.5 for i in range(2))
            values = sampled(values[..., None], u, v, other.place.filter)[..., 0]
        return mattes.counted(values, part) if part.kind == "channel" else mattes.keyed(values, part)

    def layer(self, name, own, number):
        if not name:
            return own
        return next(x for x in self.comp.layers if f"layer:{x.id}" == name).at(number)

    def named(self, name, own, number, level):
        if not name.startswith("layer:"):
            timed = own.model_copy(
                update={"element": name, "offset": 0, "speed": 1.0, "reverse": False, "ends": "hold"}
            )
            return self.element(name, self.frame_of(timed, number), level)
        return self.cut(self.layer(name, own, number), number, level)

    def size(self, layer):
        height, width = self.stored[self.comp.elements[layer.element].file][0].shape[:2]
        return width, height

    def place(self, layer, level, source_level):
        """``(3, 3)``: from corner coordinates of the comp at a level to those of the source at another."""
        comp, place, (w, h) = self.comp, layer.place, self.size(layer)
        c, s = np.cos(np.radians(place.turn)), np.sin(np.radians(place.turn))
        x = (comp.width - w) // 2 + w / 2 + place.x
        y = (comp.height - h) // 2 + h / 2 + place.y
        forth = np.array([[1, 0, x], [0, 1, y], [0, 0, 1.0]]) @ np.array(
            [[c * place.scale, -s * place.scale, 0], [s * place.scale, c * place.scale, 0], [0, 0, 1]]
        ) @ np.array([[1, 0, -w / 2], [0, 1, -h / 2], [0, 0, 1]])  # fmt: skip
        down, up = np.diag([0.5**source_level] * 2 + [1]), np.diag([2.0**level] * 2 + [1])
        return down @ np.linalg.inv(forth) @ up

    def placed(self, layer, number, level, box):
        """Read at the level whose pixels come nearest below those that are asked for."""
        source_level = max(0, floor(np.log2(2.0**level / layer.place.scale) + 1e-9))
        picture = self.cut(layer, number, source_level)
        back = self.place(layer, level, source_level)
        if (
            np.abs(back[:2, :2] - np.eye(2)).max() < 1e-9
            and np.abs(back[:2, 2] - np.round(back[:2, 2])).max() < 1e-6
        ):
            return warped(picture, np.round(back), box, "nearest")
        return warped(picture, back, box, layer.place.filter)


class Find:
    """What a step names, for one layer at one frame and level."""

    def __init__(self, reference, layer, number, level):
        self.reference, self.own, self.number, self.level = reference, layer, number, level

    def picture(self, name):
        return self.reference.named(name, self.own, self.number, self.level)

    def matte(self, matte):
        r, own = self.reference, self.own
        base = r.element(own.element, r.layer_frame(own, self.number), self.level)
        return r.matte(own, matte, self.number, self.level, base, of_step=True)


def seen(comp, layer, number):
    first = comp.first if layer.first is None else layer.first
    last = comp.last if layer.last is None else layer.last
    return layer.shown and first <= number <= last
