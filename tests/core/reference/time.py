"""Time: which frames are seen, by exact fractions, and what is animated at one, by SciPy's curves."""

from __future__ import annotations

from fractions import Fraction
from math import floor

from pydantic import BaseModel
from scipy.interpolate import PchipInterpolator


def at(value, frame):
    """A part of the document with every curve replaced by its value; off beyond frames of its own."""
    if isinstance(value, tuple):
        return tuple(at(v, frame) for v in value)
    if not isinstance(value, BaseModel):
        return value
    fields = type(value).model_fields
    # members of a group have a time of their own
    changes = {name: at(getattr(value, name), frame) for name in fields if name not in {"keys", "layers"}}
    for path, curve in getattr(value, "keys", {}).items():
        changes[path] = curve_at(curve, frame)
    if {"on", "first", "last"} <= set(fields):
        begun = value.first is None or frame >= value.first
        ended = value.last is not None and frame > value.last
        changes["on"] = value.on and begun and not ended
    return value.model_copy(update={**changes, **({"keys": {}} if "keys" in fields else {})})


def curve_at(curve, frame):
    frames, values = [k.frame for k in curve.keys], [k.value for k in curve.keys]
    t, first, span = frame, frames[0], frames[-1] - frames[0]
    if span and not first <= t <= frames[-1] and curve.beyond != "hold":
        t = (t - first) % (span if curve.beyond == "loop" else 2 * span)
        t = first + (t if t <= span else 2 * span - t)
    if t <= first or not span:
        return values[0]
    if t >= frames[-1]:
        return values[-1]
    i = max(n for n, f in enumerate(frames) if f <= t)
    share, way = (t - frames[i]) / (frames[i + 1] - frames[i]), curve.keys[i].way
    if way == "smooth":
        return float(PchipInterpolator(frames, values)(t))
    weight = {"hold": 0, "linear": share, "eased": share * share * (3 - 2 * share)}[way]
    return values[i] + weight * (values[i + 1] - values[i])


class Moment(int):
    """A frame of a group, or of the comp; ``root``: the frame of the comp."""

    def __new__(cls, frame, root):
        made = super().__new__(cls, frame)
        made.root = root
        return made


def seen(comp, layer, number):
    first = comp.first if layer.first is None else layer.first
    last = comp.last if layer.last is None else layer.last
    return layer.shown and first <= number <= last


def frames_of(comp, layer, number):
    """The frames of its element that a layer shows, each with its share; none where it ends blank.

    Of a group the frames its members are seen at: as if the comp's frames were an element's.
    """
    if layer.kind == "made":  # it has no frames of its own
        return [(number, 1.0)]
    element = comp if is_group(layer) else (comp.elements | comp.comps)[layer.element]
    if getattr(element, "still", False):
        return [(element.first, 1.0)]
    timing = layer.offset, layer.speed, layer.reverse, layer.own_frame
    if is_group(layer) and timing == (0, 1, False, None):
        return [(number, 1.0)]
    rate = (element.rate or comp.rate) / comp.rate
    if layer.own_frame is None:
        pace = Fraction(layer.speed).limit_denominator(100000)
        time = (number - comp.first - layer.offset) * pace * rate
    else:
        time = Fraction(layer.own_frame).limit_denominator(1000) - element.first - layer.offset * rate
    count = element.last - element.first + 1
    if layer.beyond == "blank" and not 0 <= time < count:
        return []
    part = time - floor(time)
    near = floor(time) if part < Fraction(1, 2) else floor(time) + 1
    rows = {
        "begun": [(floor(time), 1.0)],
        "nearest": [(near, 1.0)],
        "blend": [(floor(time), float(1 - part)), (floor(time) + 1, float(part))],
    }[layer.between]
    return [(numbered(layer, element, count, index), share) for index, share in rows if share]


def numbered(layer, element, count, index):
    """The number of a frame by its place, inside the element's frames or beyond them."""
    if layer.beyond == "loop":
        index %= count
    elif layer.beyond == "ping-pong" and count > 1:
        index %= 2 * count - 2
        index = index if index < count else 2 * count - 2 - index
    index = min(max(index, 0), count - 1)
    return element.last - index if layer.reverse else element.first + index


def frames_or_held(comp, layer, number):
    """As `frames_of`; where it ends blank its first or last frame stands in for what is named of it."""
    held = layer.model_copy(update={"beyond": "hold"})
    return frames_of(comp, layer, number) or frames_of(comp, held, number)


def nearest(shown):
    """The frame with the larger share, the later one of two halves."""
    return max(reversed(shown), key=lambda row: row[1])[0]


def is_group(layer):
    return layer.kind == "group"
