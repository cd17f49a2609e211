"""Colour models on flat values 0..1 and beyond: hue, lightness, saturation; luma and two colour differences.

Hue, lightness and saturation: the double hexcone of Joblove and Greenberg 1978 [JobloveGreenberg1978], as
Python's `colorsys` has it; hue 0..1 from red by green and blue. Luma and colour differences: ITU-R BT.601-7,
BT.709-6 and BT.2020-2 [BT601] [BT709] [BT2020], full range with 0.5 for no colour, or the 8-bit ranges of
those recommendations.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..numeric.jit import kernel
from .luma import LUMA_WEIGHTS

Values = NDArray[np.float32]
Three = tuple[Values, Values, Values]
Weights = Literal["bt601", "bt709", "bt2020"]
Range = Literal["full", "narrow"]


@kernel
def _to_hls(r, g, b, h, light_out, s):  # type: ignore[no-untyped-def]
    zero, one, two, six = np.float32(0), np.float32(1), np.float32(2), np.float32(6)
    for i in range(r.size):
        high, low = max(r[i], max(g[i], b[i])), min(r[i], min(g[i], b[i]))
        span = high - low
        sum_ = high + low
        light = sum_ / two
        light_out[i] = light
        room = sum_ if light <= np.float32(0.5) else two - sum_
        s[i] = span / room if span != zero and room != zero else zero
        d = span if span != zero else one
        red, green = (g[i] - b[i]) / d, two + (b[i] - r[i]) / d
        blue = np.float32(4) + (r[i] - g[i]) / d
        turn = red if r[i] == high else (green if g[i] == high else blue)
        turn = turn / six
        h[i] = turn - np.floor(turn) if span != zero else zero


@kernel
def _from_hls(h, lightness, s, r, g, b):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    third = np.float32(1.0 / 3)
    for i in range(h.size):
        light, sat = lightness[i], s[i]
        m2 = light * (one + sat) if light <= np.float32(0.5) else light + sat - light * sat
        m1 = two * light - m2
        for k in range(3):
            hue = h[i] + third * np.float32(1 - k)
            hue = hue - np.floor(hue)
            if hue < np.float32(1.0 / 6):
                v = m1 + (m2 - m1) * hue * np.float32(6)
            elif hue < np.float32(0.5):
                v = m2
            elif hue < np.float32(2.0 / 3):
                v = m1 + (m2 - m1) * (np.float32(2.0 / 3) - hue) * np.float32(6)
            else:
                v = m1
            if k == 0:
                r[i] = v
            elif k == 1:
                g[i] = v
            else:
                b[i] = v


@kernel
def _to_ycc(r, g, b, y, cb, cr, kr, kg, kb, y_scale, y_add, c_scale, c_add):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    for i in range(r.size):
        luma = kr * r[i] + kg * g[i] + kb * b[i]
        y[i] = luma * y_scale + y_add
        cb[i] = (b[i] - luma) / (two * (one - kb)) * c_scale + c_add
        cr[i] = (r[i] - luma) / (two * (one - kr)) * c_scale + c_add


@kernel
def _from_ycc(y, cb, cr, r, g, b, kr, kg, kb, y_scale, y_add, c_scale, c_add):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    for i in range(y.size):
        luma = (y[i] - y_add) / y_scale
        pb, pr = (cb[i] - c_add) / c_scale, (cr[i] - c_add) / c_scale
        red = luma + two * (one - kr) * pr
        blue = luma + two * (one - kb) * pb
        r[i] = red
        b[i] = blue
        g[i] = (luma - kr * red - kb * blue) / kg


def _three(size: int) -> Three:
    return np.empty(size, np.float32), np.empty(size, np.float32), np.empty(size, np.float32)


def to_hls(r: Values, g: Values, b: Values) -> Three:
    """Hue, lightness, saturation of flat R, G, B."""
    out = _three(r.size)
    _to_hls(r, g, b, *out)
    return out


def from_hls(h: Values, lightness: Values, s: Values) -> Three:
    """R, G, B of flat hue, lightness, saturation."""
    out = _three(h.size)
    _from_hls(h, lightness, s, *out)
    return out


def _ycc_numbers(weights: Weights, extent: Range) -> tuple[np.float32, ...]:
    if extent == "full":
        scales = (1.0, 0.0, 1.0, 0.5)
    else:  # 16..235 and 16..240 of 255
        scales = (219 / 255, 16 / 255, 224 / 255, 128 / 255)
    return tuple(np.float32(v) for v in (*LUMA_WEIGHTS[weights], *scales))


def to_ycc(r: Values, g: Values, b: Values, weights: Weights = "bt709", extent: Range = "full") -> Three:
    """Luma, Cb, Cr of flat R', G', B'."""
    out = _three(r.size)
    _to_ycc(r, g, b, *out, *_ycc_numbers(weights, extent))
    return out


def from_ycc(y: Values, cb: Values, cr: Values, weights: Weights = "bt709", extent: Range = "full") -> Three:
    """R', G', B' of flat luma, Cb, Cr."""
    out = _three(y.size)
    _from_ycc(y, cb, cr, *out, *_ycc_numbers(weights, extent))
    return out
