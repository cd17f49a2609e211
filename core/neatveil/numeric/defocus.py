"""Blur by distance: every pixel spreads over the circle of confusion that a lens makes of it.

The picture is taken apart into planes, by the size of the circle; a pixel between two belongs to both.
Each is spread by its own aperture and laid over those that lie further away. What a nearer one hides of it
is left out: nothing bleeds from the front into what is behind, and at an edge a plane counts by its share
among what is not hidden. Behind what is blurred before the focus the picture goes on by what lies beside.

A plane is spread by sums along rows: the cost grows with the aperture's outline instead of its area.

Source: planes with hidden parts that are continued, Barsky & Kosloff 2008 [Barsky2008].
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .defocus_loops import CELL, FINE, blur_tile, filled, mark_cells, sort_rows, tally, unhidden
from .pool import for_each, for_strips
from .pyramid import interleave

Floats = NDArray[np.float32]

#: A circle of confusion smaller than this is sharp, in pixels of radius.
SHARP = 0.35
#: Most planes: their bits have to fit in a word.
MOST = 60
#: As many different circles or fewer are each a plane of their own.
EXACT = 16
#: Rows and columns that are done at once.
TILE = 96, 192


class _Planes(NamedTuple):
    """Which planes the pixels of a picture belong to: ``(H, W)`` each, and bits by cells."""

    planes: NDArray[np.int16]
    share: Floats
    cells: NDArray[np.int64]

    @classmethod
    def of(cls, coc: Floats, radii: Floats, without: NDArray[np.bool_] | None = None) -> _Planes:
        """``without``: where there is no pixel."""
        height, width = coc.shape
        index, share = new_array(coc.shape, np.int16), new_array(coc.shape)
        for_strips(height, width, lambda a, b: sort_rows(coc, radii, a, b, index, share))
        if without is not None:
            index[without] = -1
        down, across = -(-height // CELL), -(-width // CELL)
        cells = np.zeros((down, across), np.int64)
        for_strips(down, width * CELL, lambda a, b: mark_cells(index, share, a, b, cells))
        return cls(index, share, cells)


class _Behind(NamedTuple):
    """What goes on behind the front: pixels ``(H, W, 4)``, and their planes."""

    pixels: Floats
    planes: _Planes


def defocused(
    planes: Sequence[Floats], coc: Floats, aperture: Callable[[float], Floats], *, clear: bool
) -> list[Floats]:
    """R, G, B, A, ``(H, W)`` each, premultiplied, as ``planes`` are.

    ``coc``: radius of the circle of confusion in pixels, below 0 before the focus; finite. ``aperture``: a
    square of weights for a radius. ``clear``: nothing lies beyond the frame; else its last
    pixels again.
    """
    height, width = coc.shape
    coc = np.ascontiguousarray(coc, np.float32)
    radii = _radii(coc)
    if not np.abs(radii).max() > SHARP:
        return [p.copy() for p in planes]
    pixels = new_array((height, width, 4))
    interleave(planes, pixels)
    front = _Planes.of(coc, radii)
    behind = _behind(pixels, coc, radii)
    spread = _Spread.of([aperture(float(abs(r))) if abs(r) > SHARP else _POINT for r in radii])
    out = new_array((4, height, width))
    rows, hidden = pixels.reshape(height, -1), behind.pixels.reshape(height, -1)

    def tile(corner: tuple[int, int]) -> None:
        top, left = corner
        part = out[:, top : top + TILE[0], left : left + TILE[1]]
        blur_tile(
            rows, front.planes, front.share, hidden, behind.planes.planes, behind.planes.share,
            front.cells, behind.planes.cells, *spread, clear, top, left, part,
        )  # fmt: skip

    for_each([(y, x) for y in range(0, height, TILE[0]) for x in range(0, width, TILE[1])], tile)
    return list(out)


def _radii(coc: Floats) -> Floats:
    """Radii of the planes, from the farthest to the nearest: below 0 before the focus."""
    least, most = float(coc.min()), float(coc.max())
    counts = np.zeros(round(most * FINE) - round(least * FINE) + 2, np.int64)
    sums = np.zeros(len(counts))
    tally(coc.reshape(-1), round(least * FINE), counts, sums)
    used = np.flatnonzero(counts)
    if len(used) <= EXACT:
        exact = sums[used] / counts[used]
        return np.asarray(np.where(np.abs(exact) < SHARP, 0, exact)[::-1], np.float32)
    rows = _steps(max(most, -least))
    found = np.concatenate([-rows[::-1], [0], rows])
    # the outermost ones are the picture's own
    inside = found[(found > least) & (found < most)]
    return np.asarray([most, *inside[::-1], least], np.float32)


def _steps(most: float) -> Floats:
    """Radii up to ``most``: a pixel apart while they are small, then by a share of themselves."""
    rows, share = [1.0], 1.19
    while rows[-1] < most:
        rows.append(max(rows[-1] + 1, rows[-1] * share))
        if len(rows) > MOST // 2 - 2:
            rows, share = [1.0], share * 1.1
    return np.asarray(rows, np.float32)


_POINT = np.ones((1, 1), np.float32)


class _Spread(NamedTuple):
    """The planes' apertures, as shares of running sums along lines: see `blur_tile`."""

    reaches: NDArray[np.int64]
    mirrored: NDArray[np.bool_]
    begins: NDArray[np.int64]
    ends: NDArray[np.int64]
    shifts: NDArray[np.int64]
    weights: Floats
    shares: Floats

    @classmethod
    def of(cls, apertures: Sequence[Floats]) -> _Spread:
        # a disc is the same upside down but for rounding
        apertures = [
            np.asarray((a + a[::-1]) / 2, np.float32) if np.allclose(a, a[::-1], atol=1e-7) else a
            for a in apertures
        ]
        counts, shifts, weights, shares = [], [], [], []
        for aperture in apertures:
            lines = aperture[::-1, ::-1]  # a pixel shows what spreads to it
            steps = -np.diff(np.pad(lines, [(0, 0), (1, 1)]), axis=1)
            down, across = np.nonzero(np.abs(steps) > 1e-9)
            counts.append(np.bincount(down, minlength=len(lines)))
            shifts.append(across - len(lines) // 2)
            weights.append(steps[down, across])
            shares.append(lines.sum(axis=1))
        sizes = [len(a) for a in apertures]
        return cls(
            np.array([n // 2 for n in sizes], np.int64),
            np.array([np.array_equal(a, a[::-1]) for a in apertures]),
            np.cumsum([0, *sizes[:-1]]).astype(np.int64),
            np.concatenate([[0], np.cumsum(np.concatenate(counts))]).astype(np.int64),
            np.concatenate(shifts).astype(np.int64),
            np.concatenate(weights).astype(np.float32),
            np.concatenate(shares).astype(np.float32),
        )


def _behind(pixels: Floats, coc: Floats, radii: Floats) -> _Behind:
    """What is blurred before the focus hides what lies beside it further away: that goes on behind it.

    Behind what is far before the focus that may be before it too.
    """
    least = float(coc.min())
    near = coc < -SHARP
    if not near.any() or (near.all() and least > -2):
        none = np.full(coc.shape, -1, np.int16), np.zeros_like(coc)
        cells = np.zeros((-(-coc.shape[0] // CELL), -(-coc.shape[1] // CELL)), np.int64)
        return _Behind(pixels, _Planes(*none, cells))
    # further in than the widest circle reaches nothing of it is seen
    reach = 2 - least
    box = _around(near, math.ceil(reach))
    whole = new_array(pixels.shape, zero=True)
    circles, seen = np.zeros_like(coc), np.zeros(coc.shape, np.bool_)
    near, given = near[box], (np.ascontiguousarray(pixels[box]), np.ascontiguousarray(coc[box]))
    whole[box], circles[box] = _continued(*given, near)
    seen[box] = _rim(near, reach)
    if least < -2:
        nearer = given[1] < least / 2
        filled, inner = _continued(*given, nearer)
        np.copyto(whole[box], filled, where=nearer[..., None])
        np.copyto(circles[box], inner, where=nearer)
        seen[box] |= _rim(nearer, reach)
    return _Behind(whole, _Planes.of(circles, radii, ~seen))


def _around(inside: NDArray[np.bool_], reach: int) -> tuple[slice, slice]:
    """The part of a frame that holds all of it, and as much beside it as counts for its rim.

    At multiples of a power of two, so that the halves of halves are those of the frame.
    """
    step = 1 << (2 * reach).bit_length()
    rows, columns = np.flatnonzero(inside.any(1)), np.flatnonzero(inside.any(0))
    (top, bottom), (left, right) = (
        (max(0, int(n[0]) - 2 * reach) // step * step, int(n[-1]) + 1 + 2 * reach) for n in (rows, columns)
    )
    return slice(top, bottom), slice(left, right)


def _rim(inside: NDArray[np.bool_], width: float) -> NDArray[np.bool_]:
    """What lies inside and no further from its edge."""
    away = cv2.distanceTransform(np.ascontiguousarray(inside).view(np.uint8), cv2.DIST_L2, 3)
    return np.asarray(inside & (away <= width), np.bool_)


def _continued(pixels: Floats, coc: Floats, hidden: NDArray[np.bool_]) -> tuple[Floats, Floats]:
    """Pixels ``(H, W, 4)`` and circles ``(H, W)``: where they are hidden by what lies around."""
    height, width = coc.shape
    colours, circles = new_array((height, width, 4)), new_array((height, width, 2))

    def strip(a: int, b: int) -> None:
        given = (p[a:b].reshape(-1) for p in (pixels, coc, hidden))
        unhidden(*given, colours[a:b].reshape(-1), circles[a:b].reshape(-1))

    for_strips(height, width * 4, strip)
    _fill(colours, circles)
    return colours, circles[..., 0]


def _fill(colours: Floats, circles: Floats) -> None:
    """In place, ``(H, W, 4)`` and ``(H, W, 2)``, whose last is how much is known: where that is 0, what lies
    around, from halves of halves; elsewhere the rest over it."""
    height, width = circles.shape[:2]
    wide = [colours, circles]
    if circles[..., 1].min() <= 0 and max(height, width) > 1:
        small = _resized(wide, max(1, (width + 1) // 2), max(1, (height + 1) // 2), cv2.INTER_AREA)
        _fill(*small)
        wide = _resized(small, width, height, cv2.INTER_LINEAR)
    flat = [p.reshape(height, -1) for p in (colours, circles, *wide)]
    for_strips(height, width * 4, lambda a, b: filled(*(p[a:b].reshape(-1) for p in flat)))


def _resized(planes: Sequence[Floats], width: int, height: int, how: int) -> list[Floats]:
    found = [new_array((height, width, p.shape[2])) for p in planes]

    def one(i: int) -> None:
        cv2.resize(planes[i], (width, height), dst=found[i], interpolation=how)

    for_each(range(len(planes)), one)
    return found
