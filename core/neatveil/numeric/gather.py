"""Loops that read an interleaved picture at places between its pixels, by bilinear weights.

Places are in pixels from the first one's centre; what is nowhere is NaN and gives nothing.
"""

# mypy: disable-error-code="no-untyped-def,misc,call-arg,var-annotated,assignment"

from __future__ import annotations

import numpy as np

from .four import (
    bilinear,
    four_at,
    no_four,
    parts_of,
    plus_scaled,
    put_four,
    put_pixels,
    scaled,
    soon_read,
    soon_written,
)
from .jit import inline, kernel

#: How a picture goes on beyond its edges.
BEYOND = {"wrap": 0, "mirror": 1, "clamp": 2, "clear": 3}
#: Places that are done at once, so that what is worked with stays in the processor's nearest cache.
AT_ONCE = 1024

#: How far ahead memory is asked for, in numbers.
_AHEAD, _TWICE_AHEAD, _NEXT = np.uint64(64), np.uint64(128), np.uint64(AT_ONCE)
_ONE, _TWO, _THREE = np.uint64(1), np.uint64(2), np.uint64(3)


@inline
def index_beyond(place, size, beyond):
    """The pixel that stands for one beyond the edge; -1 where nothing does."""
    if 0 <= place < size:
        return place
    if beyond == 0:
        return place % size
    if beyond == 1:
        turn = place % (2 * size)
        return turn if turn < size else 2 * size - 1 - turn
    if beyond == 2:
        return min(max(place, 0), size - 1)
    return -1


@inline
def _over_edge(total, pixels, x, y, width, height, beyond, share):
    """``total`` plus ``share`` of the picture at a place on its edge or beyond."""
    left, top = np.floor(x), np.floor(y)
    fx, fy = x - left, y - top
    for n in range(4):
        row = index_beyond(np.int64(top) + n // 2, height, beyond)
        column = index_beyond(np.int64(left) + n % 2, width, beyond)
        if row >= 0 and column >= 0:
            part = (fx if n % 2 else np.float32(1) - fx) * (fy if n // 2 else np.float32(1) - fy)
            at = np.uint64(4 * (row * width + column))
            total = plus_scaled(total, four_at(pixels, at), part * share)
    return total


# The next loops have no branch and one result each, so that they vectorise.


@kernel
def any_beyond(x, y, width, height):
    """Whether a place has not four pixels about it."""
    zero, right, bottom = np.float32(0), np.float32(width - 1), np.float32(height - 1)
    found = False
    for i in range(x.size):
        found |= not ((x[i] >= zero) & (x[i] < right) & (y[i] >= zero) & (y[i] < bottom))
    return found


@kernel
def _spots(x, y, width, height, where, fx, fy):
    """Of places: the number at which the upper left of four pixels begins, and shares of the way to the
    others; of those that have not four, the picture's first."""
    zero, right, bottom = np.float32(0), np.float32(width - 1), np.float32(height - 1)
    row = np.int32(4 * width)
    for i in range(x.size):
        inside = (x[i] >= zero) & (x[i] < right) & (y[i] >= zero) & (y[i] < bottom)
        px, py = x[i] if inside else zero, y[i] if inside else zero
        column, line = np.int32(px), np.int32(py)
        fx[i], fy[i] = px - np.float32(column), py - np.float32(line)
        where[i] = line * row + np.int32(4) * column


@inline
def _pixel(pixels, row, where, fx, fy, i):
    at = np.uint64(where[i])  # unsigned, so that no index counts from the end
    return bilinear(pixels, at, at + row, fx[i], fy[i])


@inline
def _is_inside(x, y, width, height):
    return np.float32(0) <= x < np.float32(width - 1) and np.float32(0) <= y < np.float32(height - 1)


@kernel
def read_at(
    x, y, some_beyond, share, u, v, pixels, width, height, beyond, where, fx, fy, r, g, b, a
):  # fmt: skip
    """``r`` ... ``a`` take what ``pixels``, four numbers each and flat, show at the places, times ``share``.

    ``some_beyond``: see `any_beyond`. ``u``, ``v``: what the places are made from; those of the next are
    asked for. ``where`` (int32), ``fx``, ``fy`` (float32): as long as the places, to work in.
    """
    if width > 1 and height > 1:
        _spots(x, y, width, height, where, fx, fy)
        row = np.uint64(4 * width)
        for k in range(x.size // 4):
            i = np.uint64(4 * k)
            soon_read(pixels, np.uint64(where[i]) + row + _AHEAD)
            if k % 4 == 0:
                soon_read(share, i + _NEXT)
                soon_read(u, i + _NEXT)
                soon_read(v, i + _NEXT)
                ahead = i + _TWICE_AHEAD
                soon_written(r, ahead)
                soon_written(g, ahead)
                soon_written(b, ahead)
                soon_written(a, ahead)
            put_pixels(
                r, g, b, a, i,
                scaled(_pixel(pixels, row, where, fx, fy, i), share[i]),
                scaled(_pixel(pixels, row, where, fx, fy, i + _ONE), share[i + _ONE]),
                scaled(_pixel(pixels, row, where, fx, fy, i + _TWO), share[i + _TWO]),
                scaled(_pixel(pixels, row, where, fx, fy, i + _THREE), share[i + _THREE]),
            )  # fmt: skip
        for k in range(x.size // 4 * 4, x.size):
            i = np.uint64(k)
            r[i], g[i], b[i], a[i] = parts_of(scaled(_pixel(pixels, row, where, fx, fy, i), share[i]))
    if some_beyond:
        for i in range(x.size):
            if not _is_inside(x[i], y[i], width, height):
                found = no_four()
                if x[i] == x[i] and y[i] == y[i]:
                    found = _over_edge(found, pixels, x[i], y[i], width, height, beyond, share[i])
                r[i], g[i], b[i], a[i] = parts_of(found)


@kernel
def add_at(x, y, some_beyond, share, pixels, width, height, beyond, where, fx, fy, total):
    """``total``, four numbers a place and flat, plus what the picture shows there; as `read_at`."""
    _spots(x, y, width, height, where, fx, fy)
    row, zero = np.uint64(4 * width), np.float32(0)
    for k in range(x.size):
        i = np.uint64(k)
        at = np.uint64(4 * k)
        if share[i] == zero:
            continue
        if not some_beyond or _is_inside(x[i], y[i], width, height):
            here = _pixel(pixels, row, where, fx, fy, i)
            put_four(total, at, plus_scaled(four_at(total, at), here, share[i]))
        elif x[i] == x[i] and y[i] == y[i]:
            here = _over_edge(four_at(total, at), pixels, x[i], y[i], width, height, beyond, share[i])
            put_four(total, at, here)
