"""What is animated as it is at a frame, by SciPy's curves."""

from __future__ import annotations

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
