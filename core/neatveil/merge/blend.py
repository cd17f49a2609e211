"""The blend modes of the W3C, on straight colour, composed with ``over``.

``result = front * (1 - ab) + back * (1 - aa) + aa * ab * B(Cb, Cs)`` with premultiplied front and
back, and straight colours Cb and Cs under the blend function B. Values are not clamped: for
colours within 0..1 the results are those of the recommendation.

A mode is a function of two values (or of two colours) and a loop over flat planes that calls it; loops of
one shape cannot be made by a function here, since such are compiled anew in every process.

Source: W3C Compositing and Blending Level 1, sections 9.1.4 and 10 [W3CCompositing].
"""

# mypy: disable-error-code="no-untyped-def"

from __future__ import annotations

from collections.abc import Callable
from math import sqrt

import numpy as np

from ..numeric.jit import inline, kernel


@inline
def _straight(c, a):
    return c / (a if a != 0 else np.float32(1))


@inline
def _composed(f, fa, b, ba, blended, mix):
    one = np.float32(1)
    both = f * (one - ba) + b * (one - fa) + fa * ba * blended
    # not b + mix * (both - b): a back of millions would take all digits from the result
    return mix * both + (one - mix) * b


@inline
def multiplied(f, fa, b, ba, mix):
    """`_composed` with the product of both colours."""
    one, zero = np.float32(1), np.float32(0)
    product = f * b if fa * ba != zero else zero
    both = f * (one - ba) + b * (one - fa) + product
    return mix * both + (one - mix) * b


@inline
def _screen(cb, cs):
    return cb + cs - cb * cs


@inline
def _hard_light(cb, cs):
    two = cs + cs
    return cb * two if cs <= np.float32(0.5) else _screen(cb, two - np.float32(1))


@inline
def _color_dodge(cb, cs):
    one, zero = np.float32(1), np.float32(0)
    bright = min(one, cb / (one - cs if cs < one else one))
    return zero if cb == zero else (one if cs >= one else bright)


@inline
def _color_burn(cb, cs):
    one, zero = np.float32(1), np.float32(0)
    dark = one - min(one, (one - cb) / (cs if cs > zero else one))
    return one if cb >= one else (zero if cs <= zero else dark)


@inline
def _soft_light(cb, cs):
    one, two = np.float32(1), np.float32(2)
    low = ((np.float32(16) * cb - np.float32(12)) * cb + np.float32(4)) * cb
    high = np.float32(sqrt(max(cb, np.float32(0))))
    d = low if cb <= np.float32(0.25) else high
    darker = cb - (one - two * cs) * cb * (one - cb)
    return darker if cs <= np.float32(0.5) else cb + (two * cs - one) * (d - cb)


@kernel
def multiply(f, fa, b, ba, out, mix):
    # fa * ba * Cb * Cs is the product of both as they are: nothing is divided
    for i in range(f.size):
        out[i] = multiplied(f[i], fa[i], b[i], ba[i], mix)


@kernel
def screen(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _screen(cb, cs), mix)


@kernel
def overlay(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _hard_light(cs, cb), mix)


@kernel
def darken(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], min(cb, cs), mix)


@kernel
def lighten(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], max(cb, cs), mix)


@kernel
def color_dodge(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _color_dodge(cb, cs), mix)


@kernel
def color_burn(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _color_burn(cb, cs), mix)


@kernel
def hard_light(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _hard_light(cb, cs), mix)


@kernel
def soft_light(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], _soft_light(cb, cs), mix)


@kernel
def difference(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], abs(cb - cs), mix)


@kernel
def exclusion(f, fa, b, ba, out, mix):
    for i in range(f.size):
        cb, cs = _straight(b[i], ba[i]), _straight(f[i], fa[i])
        out[i] = _composed(f[i], fa[i], b[i], ba[i], cb + cs - np.float32(2) * cb * cs, mix)


# The modes of whole colours; weights as printed in the recommendation.
@inline
def _lum(r, g, b):
    return np.float32(0.3) * r + np.float32(0.59) * g + np.float32(0.11) * b


@inline
def _sat(r, g, b):
    return max(max(r, g), b) - min(min(r, g), b)


@inline
def _clip_color(r, g, b, light):
    """As the recommendation; where the light itself lies beyond 0..1, which it leaves out, a grey of it.

    The colour comes as its channels' distances from the light: beside a colour of millions, as a division
    makes it, the light itself would be lost in the sum.
    """
    one, zero, least = np.float32(1), np.float32(0), np.float32(1e-20)
    low, high = min(min(r, g), b), max(max(r, g), b)
    k = max(zero, light / max(-low, least)) if light + low < zero else one
    if light + high > one:
        k *= max(zero, (one - light) / max(high, least))
    return light + r * k, light + g * k, light + b * k


@inline
def _set_lum(r, g, b, light):
    own = _lum(r, g, b)
    return _clip_color(r - own, g - own, b - own, light)


@inline
def _set_sat(r, g, b, sat):
    low, span = min(min(r, g), b), _sat(r, g, b)
    k = sat / span if span > 0 else np.float32(0)
    return (r - low) * k, (g - low) * k, (b - low) * k


@inline
def _colours(f, b, i):
    """Straight back and front of a pixel from R, G, B, A planes."""
    return (
        _straight(b[0][i], b[3][i]), _straight(b[1][i], b[3][i]), _straight(b[2][i], b[3][i]),
        _straight(f[0][i], f[3][i]), _straight(f[1][i], f[3][i]), _straight(f[2][i], f[3][i]),
    )  # fmt: skip


@inline
def _put(f, b, out, i, red, green, blue, mix):
    fa, ba = f[3][i], b[3][i]
    out[0][i] = _composed(f[0][i], fa, b[0][i], ba, red, mix)
    out[1][i] = _composed(f[1][i], fa, b[1][i], ba, green, mix)
    out[2][i] = _composed(f[2][i], fa, b[2][i], ba, blue, mix)


@kernel
def hue(f, back, out, mix):
    for i in range(f[0].size):
        br, bg, bb, sr, sg, sb = _colours(f, back, i)
        r, g, b = _set_sat(sr, sg, sb, _sat(br, bg, bb))
        r, g, b = _set_lum(r, g, b, _lum(br, bg, bb))
        _put(f, back, out, i, r, g, b, mix)


@kernel
def saturation(f, back, out, mix):
    for i in range(f[0].size):
        br, bg, bb, sr, sg, sb = _colours(f, back, i)
        r, g, b = _set_sat(br, bg, bb, _sat(sr, sg, sb))
        r, g, b = _set_lum(r, g, b, _lum(br, bg, bb))
        _put(f, back, out, i, r, g, b, mix)


@kernel
def color(f, back, out, mix):
    for i in range(f[0].size):
        br, bg, bb, sr, sg, sb = _colours(f, back, i)
        r, g, b = _set_lum(sr, sg, sb, _lum(br, bg, bb))
        _put(f, back, out, i, r, g, b, mix)


@kernel
def luminosity(f, back, out, mix):
    for i in range(f[0].size):
        br, bg, bb, sr, sg, sb = _colours(f, back, i)
        r, g, b = _set_lum(br, bg, bb, _lum(sr, sg, sb))
        _put(f, back, out, i, r, g, b, mix)


#: name -> (loop over one channel: front, its alpha, back, its alpha, result, mix; what it does)
SEPARABLE: dict[str, tuple[Callable[..., None], str]] = {
    "multiply": (multiply, "darkens by the product"),
    "screen": (screen, "lightens by the product of the inverses"),
    "overlay": (overlay, "multiplies dark and screens light parts of the back"),
    "darken": (darken, "the darker, channel by channel"),
    "lighten": (lighten, "the lighter, channel by channel"),
    "color-dodge": (color_dodge, "brightens the back by the front"),
    "color-burn": (color_burn, "darkens the back by the front"),
    "hard-light": (hard_light, "multiplies or screens by the front"),
    "soft-light": (soft_light, "a gentle hard-light"),
    "difference": (difference, "how far the colours lie apart"),
    "exclusion": (exclusion, "difference with less contrast"),
}

#: name -> (loop over tuples of R, G, B, A: front, back; R, G, B: result; mix; what it does)
WHOLE: dict[str, tuple[Callable[..., None], str]] = {
    "hue": (hue, "hue of the front"),
    "saturation": (saturation, "saturation of the front"),
    "color": (color, "hue and saturation of the front"),
    "luminosity": (luminosity, "luminosity of the front"),
}
