"""The loops of blurring by motion vectors: see `vector_blur`."""

# mypy: disable-error-code="no-untyped-def,misc,call-arg,var-annotated,assignment"

from __future__ import annotations

import numpy as np

from .gather import add_at, any_beyond
from .jit import inline, kernel

#: Side of a tile, in pixels.
TILE = 16
#: Most movements that are told apart in a tile, and of all that reach one.
IN_TILE, REACHING = 4, 8
#: A place is found when what lies there comes within this many pixels of where it should.
FOUND = np.float32(0.75)


@inline
def _alike(ax, ay, bx, by):
    """Whether two movements may stand for one another: what is left is found by following them."""
    most = max(np.float32(1), np.float32(0.12) * np.sqrt(max(ax * ax + ay * ay, bx * bx + by * by)))
    dx, dy = ax - bx, ay - by
    return dx * dx + dy * dy <= most * most


@inline
def _kept(movements, count, most, x, y):
    """The count after one more movement: only longer ones push others out of a full list."""
    for i in range(count):
        if _alike(movements[i, 0], movements[i, 1], x, y):
            return count
    place = count
    if count == most:
        shortest = x * x + y * y
        for i in range(count):
            length = movements[i, 0] * movements[i, 0] + movements[i, 1] * movements[i, 1]
            if length < shortest:
                shortest, place = length, i
        if place == count:
            return count
    movements[place, 0], movements[place, 1] = x, y
    return min(count + 1, most)


@kernel
def survey(vx, vy, first, end, movements, counts, torn):
    """Of rows of tiles: the movements in each, and whether they jump from pixel to pixel.

    ``movements``: ``(tiles down, tiles across, IN_TILE, 2)``; pixels that stand still are left out.
    """
    height, width = vx.shape
    for row in range(first, end):
        for column in range(counts.shape[1]):
            count, jumps = 0, 0
            for y in range(row * TILE, min(height, row * TILE + TILE)):
                for x in range(column * TILE, min(width, column * TILE + TILE)):
                    dx, dy = vx[y, x], vy[y, x]
                    if dx != 0 or dy != 0:
                        count = _kept(movements[row, column], count, IN_TILE, dx, dy)
                    if x + 1 < width and not _alike(dx, dy, vx[y, x + 1], vy[y, x + 1]):
                        jumps = 1
                    if y + 1 < height and not _alike(dx, dy, vx[y + 1, x], vy[y + 1, x]):
                        jumps = 1
            counts[row, column], torn[row, column] = count, jumps


@kernel
def spread(movements, counts, torn, begins, ends, reaching, reach_counts, reach_torn):
    """What of every tile reaches others, on its way from ``begins`` to ``ends`` times its movement."""
    down, across = counts.shape
    for row in range(down):
        for column in range(across):
            for i in range(counts[row, column]):
                dx, dy = movements[row, column, i, 0], movements[row, column, i, 1]
                far = (ends - begins) * max(abs(dx), abs(dy))
                steps = int(far / (TILE / 2)) + 1
                for k in range(steps + 1):
                    t = begins + (ends - begins) * np.float32(k) / np.float32(steps)
                    top, left = row * TILE + t * dy, column * TILE + t * dx
                    for b in range(
                        max(0, int(np.floor((top - 4) / TILE))),
                        min(down, int(np.floor((top + TILE + 4) / TILE)) + 1),
                    ):
                        for a in range(
                            max(0, int(np.floor((left - 4) / TILE))),
                            min(across, int(np.floor((left + TILE + 4) / TILE)) + 1),
                        ):
                            reach_counts[b, a] = _kept(reaching[b, a], reach_counts[b, a], REACHING, dx, dy)
                            if torn[row, column]:
                                reach_torn[b, a] = 1


@inline
def _near(place, size):
    return min(max(int(np.floor(place + np.float32(0.5))), 0), size - 1)


@inline
def _followed(vx, vy, x, y, t, cx, cy):
    """Where what lies at a place at a moment was at the frame, and whether it was found.

    Begun with a movement, then twice with that of what is found.
    """
    height, width = vx.shape
    px, py = x - t * cx, y - t * cy
    gx, gy = cx, cy
    for _ in range(2):
        b, a = _near(py, height), _near(px, width)
        gx, gy = vx[b, a], vy[b, a]
        px, py = x - t * gx, y - t * gy
    b, a = _near(py, height), _near(px, width)
    dx, dy = t * (vx[b, a] - gx), t * (vy[b, a] - gy)
    return px, py, dx * dx + dy * dy <= FOUND * FOUND


@inline
def _behind(vx, vy, front, x, y, t):
    """What comes in sight where nothing was: of the two places beside it the one further back."""
    height, width = vx.shape
    dx, dy = t * vx[int(y), int(x)], t * vy[int(y), int(x)]
    one = front[_near(y - dy, height), _near(x - dx, width)]
    other = front[_near(y + dy, height), _near(x + dx, width)]
    if other < one:
        return x + dx, y + dy
    return x - dx, y - dy


@inline
def _seen(vx, vy, front, x, y, t, movements, count):
    """Where what is seen in front at a place at a moment was at the frame."""
    height, width = vx.shape
    px, py, found = _followed(vx, vy, x, y, t, vx[int(y), int(x)], vy[int(y), int(x)])
    most = front[_near(py, height), _near(px, width)]
    for i in range(count):
        qx, qy, there = _followed(vx, vy, x, y, t, movements[i, 0], movements[i, 1])
        how = front[_near(qy, height), _near(qx, width)]
        if there and (not found or how > most):
            px, py, found, most = qx, qy, True, how
    if not found:
        px, py = _behind(vx, vy, front, x, y, t)
    return px, py


#: How a pixel's places are found: it stands still, they lie on a parabola, or each is looked for.
STILL, SMOOTH, TORN = 0, 1, 2


@kernel
def _nearest_row(cx, cy, t, y, width, height, index):
    """``index``: in a flat frame, of the pixels where those of row ``y`` were, by their movements."""
    half, zero, right = np.float32(0.5), np.float32(0), np.float32(width - 1)
    down, bottom, row = np.float32(y), np.float32(height - 1), np.int32(width)
    for x in range(cx.size):
        px, py = np.float32(x) - t * cx[x], down - t * cy[x]
        column = np.int32(min(max(np.floor(px + half), zero), right))
        index[x] = np.int32(min(max(np.floor(py + half), zero), bottom)) * row + column


@kernel
def _taken(values, index, out):
    for x in range(index.size):
        out[x] = values[np.uint32(index[x])]


@kernel
def _followed_row(vx, vy, t, y, width, height, index, cx, cy, gx, gy, found):
    """As `_followed` of a row: ``cx``, ``cy`` become the movements of what was there at ``t``, and ``found``
    whether it was. ``vx``, ``vy``: flat; the others are as long as a row."""
    for _ in range(2):
        _nearest_row(cx, cy, t, y, width, height, index)
        _taken(vx, index, cx)
        _taken(vy, index, cy)
    _nearest_row(cx, cy, t, y, width, height, index)
    _taken(vx, index, gx)
    _taken(vy, index, gy)
    for x in range(found.size):
        dx, dy = t * (gx[x] - cx[x]), t * (gy[x] - cy[x])
        found[x] = dx * dx + dy * dy <= FOUND * FOUND


@kernel
def _modes_row(own_x, own_y, counts, torn, mode):
    width = mode.size
    for x in range(width):
        # SMOOTH is 1
        mode[x] = np.uint8(own_x[x] != 0) | np.uint8(own_y[x] != 0)
    for column in range(counts.size):
        if counts[column] == 0 or torn[column] != 0:
            for x in range(column * TILE, min(column * TILE + TILE, width)):
                mode[x] = STILL if counts[column] == 0 else TORN


@kernel
def _parabola_row(mode, begins, ends, own, first, last, one, other, c, d):
    """A row's c and d along one axis, from the movements found at the ``first`` and the ``last`` moment."""
    zero = np.float32(0)
    whole = begins * ends * (ends - begins) != 0
    for x in range(mode.size):
        bend = (last[x] - first[x]) / (ends - begins) if whole and one[x] and other[x] else zero
        straight = (first[x] if begins != 0 else own[x]) if one[x] else own[x]
        if not one[x] and other[x] and ends != 0:
            straight = last[x]
        smooth = mode[x] == SMOOTH
        d[x] = bend if smooth else zero
        c[x] = straight - bend * begins if smooth else zero if mode[x] == STILL else own[x]


@kernel
def courses(vx, vy, begins, ends, reach_counts, reach_torn, first, way, mode, torn_rows):
    """How some rows are followed: ``way``, ``(4, rows, W)``, takes c and d of x and of y; ``mode``; and
    whether any pixel of a row is torn.

    What a pixel shows at a moment t was at the pixel less ``t * (c + d * t)``. Where movements do not jump
    that is a parabola through what is found at the first and the last moment.
    """
    height, width = vx.shape
    flat_x, flat_y, index = vx.reshape(-1), vy.reshape(-1), np.empty(width, np.int32)
    # one by one: what an array is unpacked to counts as strided, and does not vectorise
    ax, ay, bx = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    by, gx, gy = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    one, other = np.empty(width, np.bool_), np.empty(width, np.bool_)
    for j in range(mode.shape[0]):
        y = first + j
        _modes_row(vx[y], vy[y], reach_counts[y // TILE], reach_torn[y // TILE], mode[j])
        ax[:], ay[:], bx[:], by[:] = vx[y], vy[y], vx[y], vy[y]
        _followed_row(flat_x, flat_y, begins, y, width, height, index, ax, ay, gx, gy, one)
        _followed_row(flat_x, flat_y, ends, y, width, height, index, bx, by, gx, gy, other)
        _parabola_row(mode[j], begins, ends, vx[y], ax, bx, one, other, way[0, j], way[1, j])
        _parabola_row(mode[j], begins, ends, vy[y], ay, by, one, other, way[2, j], way[3, j])
        torn_rows[j] = (mode[j] == TORN).any()


@kernel
def _on_parabola(c, d, t, across, down, out):
    """Places of a row along one axis; a pixel's own is ``across`` times its number plus ``down``."""
    for x in range(c.size):
        out[x] = np.float32(x) * across + down - t * (c[x] + d[x] * t)


@kernel
def _places_row(vx, vy, front, t, reaching, reach_counts, way, mode, torn, y, j, xs, ys):
    """Where what row ``y``, the ``j``-th of those in ``way``, shows at a moment was at the frame."""
    one, zero = np.float32(1), np.float32(0)
    _on_parabola(way[0, j], way[1, j], t, one, zero, xs)
    _on_parabola(way[2, j], way[3, j], t, zero, np.float32(y), ys)
    if not torn:
        return
    for x in range(mode.size):
        if mode[x] == TORN:
            column = x // TILE
            xs[x], ys[x] = _seen(
                vx, vy, front, np.float32(x), np.float32(y), t, reaching[column], reach_counts[column]
            )


@kernel
def _shares_row(mode, share, out):
    for x in range(mode.size):
        out[x] = np.float32(0) if mode[x] == STILL else share


@kernel
def _finish_row(total, mode, pixels, r, g, b, a):
    """Pixels of ``total``, four numbers each and flat; still ones as they were."""
    for i in range(mode.size):
        still = mode[i] == STILL
        r[i] = pixels[4 * i] if still else total[4 * i]
        g[i] = pixels[4 * i + 1] if still else total[4 * i + 1]
        b[i] = pixels[4 * i + 2] if still else total[4 * i + 2]
        a[i] = pixels[4 * i + 3] if still else total[4 * i + 3]


@kernel
def mean_rows(
    vx, vy, front, moments, reaching, reach_counts, way, mode, torn_rows, first, pixels, beyond, r, g, b, a
):  # fmt: skip
    """The mean of what some rows show at all moments, into ``r`` ... ``a``, ``(rows, W)``.

    ``pixels``: the picture, four numbers each and flat; ``way``, ``mode``, ``torn_rows``: see `courses`.
    """
    height, width = vx.shape
    xs, ys, share = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    fx, fy, where = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.int32)
    total = np.empty(4 * width, np.float32)
    for j in range(mode.shape[0]):
        y = first + j
        row = y // TILE
        _shares_row(mode[j], np.float32(1) / np.float32(moments.size), share)
        total[:] = 0
        for k in range(moments.size if mode[j].any() else 0):
            _places_row(
                vx, vy, front, moments[k], reaching[row], reach_counts[row], way, mode[j], torn_rows[j],
                y, j, xs, ys,
            )  # fmt: skip
            some_beyond = any_beyond(xs, ys, width, height)
            add_at(xs, ys, some_beyond, share, pixels, width, height, beyond, where, fx, fy, total)
        _finish_row(total, mode[j], pixels[4 * width * y : 4 * width * (y + 1)], r[j], g[j], b[j], a[j])
