"""Colour out of its alpha and into it again, pixel by pixel.

Where alpha is above 0 there is a surface: its colour is what a step changes. Where it is 0 there may be
light, such as glow: changed as it stands, whatever the alpha becomes. Where there is neither, nothing
comes in: or a value counts as far as the new alpha covers, if channels are taken for what they say (`bare`).
"""

from __future__ import annotations

import numpy as np

from ..numeric.jit import inline, kernel

#: Pixels at a time where several loops follow one another: what they hold stays in the first cache.
PART = 1024


@inline
def share(r, g, b, a, now, bare):  # type: ignore[no-untyped-def]
    """What the straight value of a pixel, once ``r, g, b, a``, is multiplied by under the alpha ``now``.

    ``bare``: 1 or 0, whether a value counts where nothing was.
    """
    zero = np.float32(0)
    # two choices one after the other, and no "or": so the loops that use it vectorise
    beyond = np.float32(1) if abs(r) + abs(g) + abs(b) > zero else bare * now
    return now if a > zero else beyond


@kernel
def out_of_alpha(c, a, out):  # type: ignore[no-untyped-def]
    one, zero = np.float32(1), np.float32(0)
    for i in range(c.size):
        out[i] = c[i] / (a[i] if a[i] > zero else one)


@kernel
def into_alpha(s, r, g, b, a, now, bare, out):  # type: ignore[no-untyped-def]
    """``s``: straight values; ``r, g, b, a``: the premultiplied pixels they were made of."""
    for i in range(s.size):
        out[i] = s[i] * share(r[i], g[i], b[i], a[i], now[i], bare)


@kernel
def limited_pixels(r, g, b, a):  # type: ignore[no-untyped-def]
    """Alpha within 0..1, in place: above 1 the straight colour stays, below 0 the colour is left as light."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(a.size):
        alpha = a[i]
        k = one / alpha if alpha > one else one
        r[i] *= k
        g[i] *= k
        b[i] *= k
        a[i] = one if alpha > one else (zero if alpha < zero else alpha)


@kernel
def shares(r, g, b, a, out):  # type: ignore[no-untyped-def]
    """Of pixels whose alpha stays."""
    for i in range(out.size):
        out[i] = share(r[i], g[i], b[i], a[i], a[i], np.float32(0))


@kernel
def times(x, y, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = x[i] * y[i]
