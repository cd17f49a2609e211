"""Closed outlines of cubic Bezier curves as coverage of pixels, with a soft edge.

Curves become lines that stray from them by at most `TOLERANCE`: a cubic's chord error in ``n`` even steps is
at most its greatest second derivative over ``8 n * n`` (Wang's formula, from memory). Coverage is the exact
area of the polygon in every pixel, by the signed areas that its edges cut off to their right, summed along
rows; where an outline crosses itself what is wound about at all counts (non-zero rule).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from math import ceil, floor, hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane

Points = NDArray[np.float64]

#: Pixels that a line may stray from its curve.
TOLERANCE = 0.01
#: Lines that one curve becomes at most.
MOST = 200


def flattened(points: Points) -> Points:
    """``(M, 2)`` corners of the closed polygon along an outline.

    ``points``: ``(N, 6)``: each point's x, y, and the offsets from it of its handles before and after it.
    """
    found = []
    for start, end in zip(points, np.roll(points, -1, axis=0), strict=True):
        curve = np.array([start[:2], start[:2] + start[4:6], end[:2] + end[2:4], end[:2]])
        bends = curve[:-2] - 2 * curve[1:-1] + curve[2:]
        bend = max(hypot(*row) for row in bends)
        count = min(MOST, max(1, ceil(sqrt(6 * bend / (8 * TOLERANCE)))))
        t = np.arange(count)[:, None] / count
        u = 1 - t
        found.append(u**3 * curve[0] + 3 * u * u * t * curve[1] + 3 * u * t * t * curve[2] + t**3 * curve[3])
    return np.concatenate(found) if found else np.empty((0, 2))


@kernel
def _areas(corners, out):  # type: ignore[no-untyped-def]
    """Adds to ``out`` ``(H, W + 1)`` what each edge changes of the coverage from a pixel to the next."""
    height, width = out.shape[0], out.shape[1] - 1
    count = corners.shape[0]
    for k in range(count):
        xa, ya = corners[k, 0], corners[k, 1]
        xb, yb = corners[(k + 1) % count, 0], corners[(k + 1) % count, 1]
        if ya == yb:
            continue
        sign = 1.0
        if ya > yb:
            xa, ya, xb, yb, sign = xb, yb, xa, ya, -1.0
        slope = (xb - xa) / (yb - ya)
        first, last = max(0, int(np.floor(ya))), min(height, int(np.ceil(yb)))
        for row in range(first, last):
            y0, y1 = max(ya, float(row)), min(yb, row + 1.0)
            if y1 <= y0:
                continue
            x0, x1 = xa + (y0 - ya) * slope, xa + (y1 - ya) * slope
            left, right = min(x0, x1), max(x0, x1)
            _edge(out[row], width, left, right, sign * (y1 - y0))


@kernel
def _areas_of_all(points, ends, out):  # type: ignore[no-untyped-def]
    """`_areas` of each polygon; ``ends``: of their points, in a row."""
    start = 0
    for k in range(ends.size):
        _areas(points[start : ends[k]], out)
        start = ends[k]


@kernel
def _edge(row, width, left, right, tall):  # type: ignore[no-untyped-def]
    """One row's part of an edge: it leans from ``left`` to ``right`` and is ``tall`` high."""
    # what lies left of the frame covers all of its row, what lies right of it nothing
    if right <= 0.0:
        row[0] += tall
        return
    if left >= width:
        return
    span = right - left
    if span < 1e-9:
        span = 0.0
    x = left
    while True:
        cell = np.floor(x)
        end = min(cell + 1.0, right)
        share = tall if span == 0.0 else tall * (end - x) / span
        i = int(cell)
        middle = 0.5 * (x + end) - cell
        if i < 0:
            row[0] += share
        elif i < width:
            row[i] += share * (1.0 - middle)
            row[i + 1] += share * middle
        if span == 0.0 or end >= right:
            break
        x = end


@kernel
def _summed(areas, out):  # type: ignore[no-untyped-def]
    for row in range(out.shape[0]):
        total = 0.0
        for i in range(out.shape[1]):
            total += areas[row, i]
            out[row, i] = min(1.0, abs(total))


@kernel
def _nearest(corners, closed, reach, x0, y0, out):  # type: ignore[no-untyped-def]
    """Lowers squared distances from pixel centres to lines, up to ``reach``."""
    count = corners.shape[0]
    far = reach + 1.0
    for k in range(count if closed else max(1, count - 1)):
        n = (k + 1) % count
        xa, ya = corners[k, 0] - x0, corners[k, 1] - y0
        dx, dy = corners[n, 0] - x0 - xa, corners[n, 1] - y0 - ya
        length = dx * dx + dy * dy
        inverse = 1.0 / length if length > 0.0 else 0.0
        top = max(0, int(np.floor(min(ya, ya + dy) - far)))
        end = min(out.shape[0], int(np.ceil(max(ya, ya + dy) + far)) + 1)
        left = max(0, int(np.floor(min(xa, xa + dx) - far)))
        right = min(out.shape[1], int(np.ceil(max(xa, xa + dx) + far)) + 1)
        for row in range(top, end):
            py = row + 0.5 - ya
            for i in range(left, right):
                px = i + 0.5 - xa
                t = min(1.0, max(0.0, (px * dx + py * dy) * inverse))
                ex, ey = px - t * dx, py - t * dy
                d = np.float32(ex * ex + ey * ey)
                if d < out[row, i]:
                    out[row, i] = d


@kernel
def _soft_edge(coverage, squared, inside, outside, out):  # type: ignore[no-untyped-def]
    half, one, zero = np.float32(0.5), np.float32(1), np.float32(0)
    for i in range(out.size):
        distance = np.sqrt(squared[i])
        if coverage[i] >= half:
            distance = -distance
        t = min(one, max(zero, (outside - distance) / (inside + outside)))
        out[i] = t * t * (np.float32(3) - np.float32(2) * t)


def coverage(outlines: Iterable[Points], height: int, width: int) -> Plane:
    """``(H, W)`` 0..1: the share of every pixel that lies within closed polygons ``(M, 2)``.

    One that turns the other way is a hole in those around it.
    """
    out = np.zeros((height, width), np.float32)
    areas = np.zeros((height, width + 1), np.float64)
    rows = [corners for corners in outlines if len(corners) >= 3]
    points = np.concatenate(rows, dtype=np.float64) if rows else np.empty((0, 2))
    if not np.isfinite(points).all():
        rows = [corners for corners in rows if np.isfinite(corners).all()]
        points = np.concatenate(rows, dtype=np.float64) if rows else np.empty((0, 2))
    ends = np.cumsum([len(corners) for corners in rows], dtype=np.int64)
    # all polygons in one call: a page of text has thousands
    _areas_of_all(points, ends, areas)

    for_strips(height, width, lambda a, b: _summed(areas[a:b], out[a:b]))
    return out


def squared_distances(
    outlines: Sequence[Points], reach: float, box: tuple[int, int, int, int], *, closed: bool
) -> Plane:
    """``(H, W)`` squared distances of pixel centres to lines through points ``(M, 2)``, up to ``reach``.

    ``box``: x0, y0, x1, y1 of the pixels.
    """
    x0, y0, x1, y1 = box
    out = np.full((y1 - y0, x1 - x0), reach * reach, np.float32)
    lines = [np.ascontiguousarray(corners, np.float64) for corners in outlines]

    def strip(a: int, b: int) -> None:
        for corners in lines:
            _nearest(corners, closed, float(reach), float(x0), float(y0 + a), out[a:b])

    for_strips(y1 - y0, x1 - x0, strip)
    return out


def soft_outline(points: Points, inside: float, outside: float, height: int, width: int) -> Plane:
    """``(H, W)`` 0..1 of an outline ``(N, 6)``, in pixels.

    It rises from nothing ``outside`` pixels beyond the outline to all ``inside`` pixels within it; where the
    two are less than a pixel it is the outline's exact coverage. Fewer than three points hold nothing.
    """
    if len(points) < 3:
        return np.zeros((height, width), np.float32)
    return soft_polygon(flattened(points), inside, outside, height, width)


def soft_polygon(corners: Points, inside: float, outside: float, height: int, width: int) -> Plane:
    """As `soft_outline`, of a closed polygon ``(M, 2)``."""
    hard = coverage([corners], height, width)
    if inside + outside < 1:
        return hard
    reach = max(inside, outside) + 1
    out = np.empty_like(hard)
    squared = squared_distances([corners], reach, (0, 0, width, height), closed=True)

    def strip(a: int, b: int) -> None:
        flat = (p[a:b].reshape(-1) for p in (hard, squared))
        _soft_edge(*flat, np.float32(inside), np.float32(outside), out[a:b].reshape(-1))

    for_strips(height, width, strip)
    return out


def box_around(corners: Points, reach: float, height: int, width: int) -> tuple[int, int, int, int]:
    """x0, y0, x1, y1 of the pixels that lie within ``reach`` of points; empty where none do."""
    (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
    x0, y0 = max(0, floor(left - reach)), max(0, floor(top - reach))
    x1, y1 = min(width, ceil(right + reach)), min(height, ceil(bottom + reach))
    return x0, y0, max(x0, x1), max(y0, y1)
