"""Steps that take a second picture: the patch and arithmetic."""

from __future__ import annotations

import numpy as np

from .models import OUTPUTS, hls, of_hls, of_ycc, ycc
from .pixels import decoded, encoded, straight


def patch(p, s, share, find):
    other = find.picture(s.second, p, s.fit) if s.second else np.zeros_like(p)
    sides, names = {"own": p, "second": other}, {"own": "", "second": s.second}
    default = dict(zip("RGB", OUTPUTS[s.outputs], strict=True)) | {"A": "A"}

    def channel(side, name):
        picture = sides[side]
        if "." in name:
            return find.plane(names[side], name, p, s.fit)
        colour = straight(picture) if s.input_alpha == "straight" else picture[..., :3]
        colour = encoded(colour) if s.space == "codes" else colour
        three, model = ycc(colour, s.weights, s.chroma_range), hls(colour)
        rows = {n: colour[..., i] for i, n in enumerate("RGB")} | {"A": picture[..., 3]}
        rows |= {n: three[..., i] for i, n in enumerate(OUTPUTS["ycc"])}
        rows |= {n: model[..., i] for i, n in enumerate(OUTPUTS["hls"])}
        return (rows | {"min": colour.min(-1), "max": colour.max(-1)})[name]

    def value(n):
        route = s.routes.get(n)
        if route is None:
            return channel("own", default[n])
        constant = route.source == "constant"
        x = np.full(p.shape[:2], float(route.channel)) if constant else channel(route.source, route.channel)
        return route.gain * (1 - x if route.inverted else x) + route.offset

    def is_same(n):
        route = s.routes.get(n)
        return route is None or (route.source, route.channel, route.plain) == ("own", default[n], True)

    def colour_of(n):
        """The source whose colour an output takes; None for a plain number."""
        route = s.routes.get(n)
        if route is None:
            return "own"
        plain = route.source == "constant" or route.channel == "A" or "." in route.channel
        return None if plain or (route.source == "second" and not s.second) else route.source

    alpha = value("A")
    three = np.stack([value(n) for n in "RGB"], -1)
    if s.outputs == "hls":
        three = of_hls(three)
    elif s.outputs == "ycc":
        three = of_ycc(three, s.weights, s.chroma_range)
    three = decoded(three, "srgb") if s.space == "codes" else three
    out = np.concatenate([three, alpha[..., None]], -1)
    for i, n in enumerate("RGB"):
        if s.outputs == "rgb" and is_same(n) and is_same("A") and s.input_alpha == s.output_alpha:
            out[..., i] = p[..., i]
        elif s.output_alpha == "straight":
            sources = [colour_of(n)] if s.outputs == "rgb" else [colour_of(m) for m in "RGB"]
            source = min((x for x in sources if x), default=None)
            out[..., i] = three[..., i] * (under(sides[source], alpha) if source else alpha)
    return out


def under(source, alpha):
    """What a source's straight colour is multiplied by: the new alpha; 1 for light; for nothing the alpha."""
    light = np.abs(source[..., :3]).sum(-1) > 0
    return np.where(source[..., 3] > 0, alpha, np.where(light, 1, alpha))


OPERATIONS = {
    "add": lambda a, b: a + b, "subtract": lambda a, b: a - b, "multiply": lambda a, b: a * b,
    "divide": lambda a, b: np.where(np.abs(b) > 1e-6, a / np.where(np.abs(b) > 1e-6, b, 1), a),
    "screen": lambda a, b: a + b - a * b,
    "overlay": lambda a, b: np.where(a <= 0.5, 2 * a * b, 1 - 2 * (1 - a) * (1 - b)),
    "lighten": np.maximum, "darken": np.minimum, "difference": lambda a, b: np.abs(a - b),
    "average": lambda a, b: (a + b) / 2,
}  # fmt: skip


def combine(p, s, share, find):
    if not s.second:
        return p
    other = find.picture(s.second, p, s.fit)
    one, two = straight(p), straight(other)
    if s.space == "codes":
        one, two = encoded(one), encoded(two)
    x = OPERATIONS[s.operation](one, two)
    if s.overflow == "clip":
        x = np.clip(x, 0, 1)
    elif s.overflow == "rescale":
        low, high = {"add": (0, 2), "subtract": (-1, 1)}.get(s.operation, (0, 1))
        x = (x - low) / (high - low)
    x = decoded(x, "srgb") if s.space == "codes" else x
    alpha = p[..., 3:]
    if s.transparency == "both":
        alpha = alpha + other[..., 3:] - alpha * other[..., 3:]
        return np.concatenate([x * alpha, alpha], -1)
    light = np.abs(p[..., :3]).sum(-1, keepdims=True) > 0
    return np.concatenate([x * np.where(alpha > 0, alpha, light), alpha], -1)
