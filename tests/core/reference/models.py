"""Colour models by their formulas."""

from __future__ import annotations

import numpy as np

from .pixels import BT709


def hls(rgb):
    """Joblove & Greenberg 1978."""
    high, low = rgb.max(-1), rgb.min(-1)
    span, light = high - low, (high + low) / 2
    room = np.where(light <= 0.5, high + low, 2 - high - low)
    r, g, b = (rgb[..., i] for i in range(3))
    d = np.where(span != 0, span, 1)
    rotation = np.where(r == high, (g - b) / d, np.where(g == high, 2 + (b - r) / d, 4 + (r - g) / d)) / 6 % 1
    saturation = np.where((span != 0) & (room != 0), span / np.where(room != 0, room, 1), 0)
    return np.stack([np.where(span != 0, rotation, 0), light, saturation], -1)


def of_hls(three):
    hue, light, saturation = (three[..., i] for i in range(3))
    m2 = np.where(light <= 0.5, light * (1 + saturation), light + saturation - light * saturation)
    m1 = 2 * light - m2
    out = []
    for third in (1 / 3, 0, -1 / 3):
        t = (hue + third) % 1
        rising, falling = m1 + (m2 - m1) * t * 6, m1 + (m2 - m1) * (2 / 3 - t) * 6
        out.append(np.where(t < 1 / 6, rising, np.where(t < 0.5, m2, np.where(t < 2 / 3, falling, m1))))
    return np.stack(out, -1)


LUMA = {"bt601": (0.299, 0.587, 0.114), "bt709": BT709, "bt2020": (0.2627, 0.6780, 0.0593)}
#: Factor and sum of luma, and of the colour differences.
EXTENTS = {"full": (1, 0, 1, 0.5), "narrow": (219 / 255, 16 / 255, 224 / 255, 128 / 255)}


def ycc(rgb, weights, extent):
    """ITU-R BT.601-7, BT.709-6, BT.2020-2."""
    k, (ys, ya, cs, ca) = np.array(LUMA[weights]), EXTENTS[extent]
    y = rgb @ k
    cb, cr = (rgb[..., 2] - y) / (2 - 2 * k[2]), (rgb[..., 0] - y) / (2 - 2 * k[0])
    return np.stack([y * ys + ya, cb * cs + ca, cr * cs + ca], -1)


def of_ycc(three, weights, extent):
    k, (ys, ya, cs, ca) = np.array(LUMA[weights]), EXTENTS[extent]
    y, cb, cr = (three[..., 0] - ya) / ys, (three[..., 1] - ca) / cs, (three[..., 2] - ca) / cs
    r, b = y + (2 - 2 * k[0]) * cr, y + (2 - 2 * k[2]) * cb
    return np.stack([r, (y - k[0] * r - k[2] * b) / k[1], b], -1)


OUTPUTS = {"rgb": "RGB", "hls": ("hue", "lightness", "saturation"), "ycc": ("luma", "cb", "cr")}
