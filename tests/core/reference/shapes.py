"""Soft shapes and strokes as weights of pixel centres."""

from __future__ import annotations

from functools import cache

import numpy as np


def ramp(t):
    t = np.clip(t, 0, 1)
    return t * t * (3 - 2 * t)


def weights(shape, centre, size, rotation, soft, frame, level, outwards=0.0):
    """``frame``: (W, H) at the level. Softness of a pixel or more; lengths of the full picture."""
    share = 0.5**level
    y, x = np.mgrid[: frame[1], : frame[0]] + 0.5
    dx, dy = x - frame[0] / 2 - centre[0] * share, y - frame[1] / 2 - centre[1] * share
    c, s = np.cos(np.radians(rotation)), np.sin(np.radians(rotation))
    u, v = c * dx + s * dy, c * dy - s * dx
    a, b = (max(n * share / 2, 1e-6) for n in size)
    if shape == "ellipse":
        q = np.hypot(u / a, v / b)
        slope = np.hypot(u / a / a, v / b / b)
        distance = np.where(slope > 1e-12, (q - 1) * q / np.where(slope > 1e-12, slope, 1), -min(a, b))
    else:
        du, dv = np.abs(u) - a, np.abs(v) - b
        distance = np.hypot(np.maximum(du, 0), np.maximum(dv, 0)) + np.minimum(np.maximum(du, dv), 0)
    return ramp(0.5 - (distance - outwards * share) / (soft * share))


def painted(strokes, frame, level):
    """Grey (times cover) and cover that strokes leave, each laid over those before it."""
    share = 0.5**level
    y, x = np.mgrid[: frame[1], : frame[0]] + 0.5
    grey, cover = np.zeros((frame[1], frame[0])), np.zeros((frame[1], frame[0]))
    for stroke in strokes:
        points = np.array(stroke.points).reshape(-1, 2) * share + (frame[0] / 2, frame[1] / 2)
        distance = np.full(grey.shape, np.inf)
        ends = points[1:] if len(points) > 1 else points
        for (xa, ya), (xb, yb) in zip(points, ends, strict=False):
            length = (xb - xa) ** 2 + (yb - ya) ** 2
            t = np.clip(((x - xa) * (xb - xa) + (y - ya) * (yb - ya)) / length, 0, 1) if length else 0
            distance = np.minimum(distance, np.hypot(x - xa - t * (xb - xa), y - ya - t * (yb - ya)))
        radius = stroke.size * share / 2
        edge = max(1.0, stroke.soft * radius)
        t = np.clip((radius + 0.5 - distance) / edge, 0, 1)
        t = t * t * (3 - 2 * t) if edge > 1 else t
        grey = grey * (1 - t) + (0 if stroke.erase else t * stroke.value)
        cover = cover * (1 - t) + (0 if stroke.erase else t)
    return grey, cover


@cache
def disc(radius, over=512):
    """Weights of a disc, by the samples of each pixel that lie within."""
    reach = int(np.ceil(radius + 0.5))
    steps = (np.arange((2 * reach + 1) * over) + 0.5) / over - reach - 0.5
    inside = np.hypot(steps[None], steps[:, None]) <= radius
    side = 2 * reach + 1
    weights = inside.reshape(side, over, side, over).mean((1, 3))
    return weights / weights.sum()
