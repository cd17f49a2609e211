"""Soft ellipses and rectangles as weights of pixels.

A hard edge is area coverage: the share of each pixel that lies within the outline, within 0.01. A soft one is
the smooth ramp of the distance to the outline over the soft width; below one pixel the two are mixed. Either
way the sum of the weights is the shape's area. Distances to an ellipse are of first order: the function over
its slope.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, cos, pi, radians, sin, sqrt

import numpy as np

from ..numeric.jit import inline, kernel
from ..picture import Box, Plane
from .outline import Points, coverage


@inline
def _ramp(distance, soft):  # type: ignore[no-untyped-def]
    t = np.float32(0.5) - distance / soft
    t = min(max(t, np.float32(0)), np.float32(1))
    return t * t * (np.float32(3) - np.float32(2) * t)


@kernel
def _ellipse(out, x0, y0, c, s, a, b, soft, outwards):  # type: ignore[no-untyped-def]
    """Of each pixel's centre; ``x0``, ``y0``: the first one's, seen from the ellipse's centre."""
    tiny = np.float32(1e-12)
    for row in range(out.shape[0]):
        dy = y0 + np.float32(row)
        for i in range(out.shape[1]):
            dx = x0 + np.float32(i)
            u = (c * dx + s * dy) / a
            v = (c * dy - s * dx) / b
            q = np.sqrt(u * u + v * v)
            slope = np.sqrt((u / a) * (u / a) + (v / b) * (v / b))
            # at the centre there is no slope: as far from the outline as the shorter half axis
            d = (q - np.float32(1)) * q / slope if slope > tiny else -min(a, b)
            out[row, i] = _ramp(d - outwards, soft)


@kernel
def _rectangle(out, x0, y0, c, s, a, b, soft, outwards):  # type: ignore[no-untyped-def]
    zero = np.float32(0)
    for row in range(out.shape[0]):
        dy = y0 + np.float32(row)
        for i in range(out.shape[1]):
            dx = x0 + np.float32(i)
            u = abs(c * dx + s * dy) - a
            v = abs(c * dy - s * dx) - b
            outside = np.sqrt(max(u, zero) * max(u, zero) + max(v, zero) * max(v, zero))
            out[row, i] = _ramp(outside + min(max(u, v), zero) - outwards, soft)


def shape_weights(
    shape: str, centre: tuple[float, float], size: tuple[float, float], rotation: float, soft: float,
    box: Box, frame: tuple[int, int], level: int, outwards: float = 0.0,
) -> Plane:  # fmt: skip
    """``(box.height, box.width)`` weights 0..1.

    Parameters
    ----------
    shape : ``ellipse`` or ``rectangle``.
    centre, size, soft : pixels of the full picture, the centre measured from the frame's.
    rotation : degrees, clockwise.
    outwards : how far the middle of the soft edge lies beyond the outline, in pixels of the full picture.
    box : pixels of the level, from the frame's corner. frame : width and height at the level.
    """
    out = np.empty((box.height, box.width), np.float32)
    share = 2.0**-level
    half = [max(v * share / 2, 1e-6) for v in size]
    edge = max(soft * share, 1.0)
    angle = radians(rotation)
    x0 = box.x0 + 0.5 - frame[0] / 2 - centre[0] * share
    y0 = box.y0 + 0.5 - frame[1] / 2 - centre[1] * share
    draw = _ellipse if shape == "ellipse" else _rectangle
    draw(out, *(np.float32(v) for v in (x0, y0, cos(angle), sin(angle), *half, edge, outwards * share)))
    softness = min(soft * share, 1.0)
    if softness < 1:
        reach = [max(v + outwards * share, 0.0) for v in half]
        corners = corners_of(shape, reach, angle) - (x0 - 0.5, y0 - 0.5)
        hard = coverage([corners], box.height, box.width)
        out = hard if softness == 0 else hard + np.float32(softness) * (out - hard)
    return out


def corners_of(shape: str, half: Sequence[float], angle: float) -> Points:
    """``(N, 2)`` corners around the centre; an ellipse by chords: its area is right to a part in 10,000."""
    if shape == "rectangle":
        corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    else:
        count = min(4000, max(256, ceil(pi * sqrt(max(half) / 0.004))))
        turns = np.arange(count) * (2 * pi / count)
        corners = np.stack([np.cos(turns), np.sin(turns)], axis=1) * half
    c, s = cos(angle), sin(angle)
    return np.asarray(corners @ np.array([[c, s], [-s, c]]))
