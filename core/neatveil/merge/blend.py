"""The blend modes of the W3C, on straight colour, composed with ``over``.

``result = front * (1 - ab) + back * (1 - aa) + aa * ab * B(Cb, Cs)`` with premultiplied front and
back, and straight colours Cb and Cs under the blend function B. Values are not clamped: for
colours within 0..1 the results are those of the recommendation.

Source: W3C Compositing and Blending Level 1, sections 9.1.4 and 10 [W3CCompositing].
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
Blend = Callable[[Array, Array], Array]


def _multiply(cb: Array, cs: Array) -> Array:
    return cb * cs


def _screen(cb: Array, cs: Array) -> Array:
    return cb + cs - cb * cs


def _hard_light(cb: Array, cs: Array) -> Array:
    return np.where(cs <= 0.5, _multiply(cb, 2 * cs), _screen(cb, 2 * cs - 1))


def _overlay(cb: Array, cs: Array) -> Array:
    return _hard_light(cs, cb)


def _darken(cb: Array, cs: Array) -> Array:
    return np.minimum(cb, cs)


def _lighten(cb: Array, cs: Array) -> Array:
    return np.maximum(cb, cs)


def _color_dodge(cb: Array, cs: Array) -> Array:
    safe = np.where(cs < 1, 1 - cs, 1)
    return np.where(cb == 0, 0, np.where(cs >= 1, 1, np.minimum(1, cb / safe)))


def _color_burn(cb: Array, cs: Array) -> Array:
    safe = np.where(cs > 0, cs, 1)
    return np.where(cb >= 1, 1, np.where(cs <= 0, 0, 1 - np.minimum(1, (1 - cb) / safe)))


def _soft_light(cb: Array, cs: Array) -> Array:
    d = np.where(cb <= 0.25, ((16 * cb - 12) * cb + 4) * cb, np.sqrt(np.maximum(cb, 0)))
    return np.where(cs <= 0.5, cb - (1 - 2 * cs) * cb * (1 - cb), cb + (2 * cs - 1) * (d - cb))


def _difference(cb: Array, cs: Array) -> Array:
    return np.abs(cb - cs)


def _exclusion(cb: Array, cs: Array) -> Array:
    return cb + cs - 2 * cb * cs


# The non-separable modes; weights as printed in the recommendation.
def _lum(c: Array) -> Array:
    return (0.3 * c[..., 0] + 0.59 * c[..., 1] + 0.11 * c[..., 2])[..., None]


def _sat(c: Array) -> Array:
    return (c.max(axis=-1) - c.min(axis=-1))[..., None]


def _clip_color(c: Array) -> Array:
    lum, low, high = _lum(c), c.min(axis=-1)[..., None], c.max(axis=-1)[..., None]
    c = np.where(low < 0, lum + (c - lum) * lum / np.where(low < 0, lum - low, 1), c)
    return np.where(high > 1, lum + (c - lum) * (1 - lum) / np.where(high > 1, high - lum, 1), c)


def _set_lum(c: Array, lum: Array) -> Array:
    return _clip_color(c + (lum - _lum(c)))


def _set_sat(c: Array, sat: Array) -> Array:
    low, span = c.min(axis=-1)[..., None], _sat(c)
    return np.where(span > 0, (c - low) * sat / np.where(span > 0, span, 1), 0)


def _hue(cb: Array, cs: Array) -> Array:
    return _set_lum(_set_sat(cs, _sat(cb)), _lum(cb))


def _saturation(cb: Array, cs: Array) -> Array:
    return _set_lum(_set_sat(cb, _sat(cs)), _lum(cb))


def _color(cb: Array, cs: Array) -> Array:
    return _set_lum(cs, _lum(cb))


def _luminosity(cb: Array, cs: Array) -> Array:
    return _set_lum(cb, _lum(cs))


#: name -> (blend function of back and front colour ``(..., 3)``, what it does)
BLENDS: dict[str, tuple[Blend, str]] = {
    "multiply": (_multiply, "darkens by the product"),
    "screen": (_screen, "lightens by the product of the inverses"),
    "overlay": (_overlay, "multiplies dark and screens light parts of the back"),
    "darken": (_darken, "the darker, channel by channel"),
    "lighten": (_lighten, "the lighter, channel by channel"),
    "color-dodge": (_color_dodge, "brightens the back by the front"),
    "color-burn": (_color_burn, "darkens the back by the front"),
    "hard-light": (_hard_light, "multiplies or screens by the front"),
    "soft-light": (_soft_light, "a gentle hard-light"),
    "difference": (_difference, "how far the colours lie apart"),
    "exclusion": (_exclusion, "difference with less contrast"),
    "hue": (_hue, "hue of the front"),
    "saturation": (_saturation, "saturation of the front"),
    "color": (_color, "hue and saturation of the front"),
    "luminosity": (_luminosity, "luminosity of the front"),
}


def _straight(c: Array, a: Array) -> Array:
    out: Array = np.divide(c, a, out=c.copy(), where=a != 0)
    return out


def blend(function: Blend, front: Array, back: Array) -> Array:
    """Two premultiplied ``(..., 4)`` arrays through a blend function and ``over``."""
    aa, ab = front[..., 3:], back[..., 3:]
    cs, cb = _straight(front[..., :3], aa), _straight(back[..., :3], ab)
    out = front * (1 - ab) + back * (1 - aa)
    out[..., :3] += aa * ab * function(cb, cs)
    out[..., 3:] += aa * ab
    return out.astype(np.float32, copy=False)
