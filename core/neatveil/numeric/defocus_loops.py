"""The loops of blurring by distance: see `defocus`."""

# mypy: disable-error-code="no-untyped-def,misc,call-arg,var-annotated,assignment"

from __future__ import annotations

import numpy as np

from .four import four_at, plus_scaled, put_four
from .jit import inline, kernel

#: Side of a cell that knows which planes its pixels belong to.
CELL = 16
#: Circles are told apart by so many to the pixel.
FINE = 16
#: Less than this of a plane is nothing of it.
TRACE = np.float32(1e-6)


@kernel
def tally(coc, base, counts, sums):
    """How many circles there are of each size, ``FINE`` to the pixel and from ``base`` on, and their sums."""
    for i in range(coc.size):
        size = np.int64(np.rint(coc[i] * np.float32(FINE))) - base
        counts[size] += 1
        sums[size] += coc[i]


@kernel
def sort_rows(coc, radii, first, end, index, share):
    """Of some rows: the plane a pixel belongs to, of ``radii`` that fall, and its share of the next one."""
    last = radii.size - 1
    for y in range(first, end):
        for x in range(coc.shape[1]):
            low, high = 0, last
            value = coc[y, x]
            while high - low > 1:
                middle = (low + high) // 2
                if radii[middle] >= value:
                    low = middle
                else:
                    high = middle
            span = radii[low] - radii[high]
            part = (radii[low] - value) / span if span > 0 else np.float32(0)
            part = min(max(part, np.float32(0)), np.float32(1))
            if part == 1:
                low, part = high, np.float32(0)
            index[y, x], share[y, x] = low, part


@kernel
def mark_cells(index, share, first, end, cells):
    """``cells``, ``(down, across)``: a bit for every plane that a pixel of the cell belongs to."""
    height, width = index.shape
    for row in range(first, end):
        for column in range(cells.shape[1]):
            found = np.int64(0)
            for y in range(row * CELL, min(height, row * CELL + CELL)):
                for x in range(column * CELL, min(width, column * CELL + CELL)):
                    if index[y, x] >= 0:
                        found |= np.int64(1) << index[y, x]
                        if share[y, x] > 0:
                            found |= np.int64(1) << (index[y, x] + 1)
            cells[row, column] = found


@inline
def _within(cells, top, bottom, left, right):
    """The planes of an area of pixels, as bits."""
    found = np.int64(0)
    for row in range(max(0, top // CELL), min(cells.shape[0], (bottom - 1) // CELL + 1)):
        for column in range(max(0, left // CELL), min(cells.shape[1], (right - 1) // CELL + 1)):
            found |= cells[row, column]
    return found


#: What a row of an area holds of a plane.
NOTHING, FARTHER, MIXED = 0, 1, 2
#: Numbers of a pixel in running sums: R, G, B, A of a plane, its own share, and that of what lies beyond.
SUMMED = 6


@kernel
def _shares_row(index, share, hidden, hidden_share, plane, own, behind, farther):
    """Of a row: how much of each pixel belongs to a plane, of what goes on behind it too, and lies beyond."""
    one, zero = np.float32(1), np.float32(0)
    for x in range(own.size):
        n, part = index[x], share[x]
        own[x] = one - part if n == plane else part if n == plane - 1 else zero
        farther[x] = zero if n >= plane else one - part if n == plane - 1 else one
        n, part = hidden[x], hidden_share[x]
        behind[x] = zero if n < 0 else one - part if n == plane else part if n == plane - 1 else zero


@kernel
def _sum_row(pixels, hidden, own, behind, farther, sums):
    """Running sums of a row, begun with those that ``sums`` holds for its first pixel; six a pixel, flat."""
    colours, w, f, zero = four_at(sums, np.uint64(0)), sums[4], sums[5], np.float32(0)
    for x in range(own.size):
        k, m, o = own[x], behind[x], np.uint64(SUMMED * x + SUMMED)
        colours = plus_scaled(colours, four_at(pixels, np.uint64(4 * x)), k)
        if m != zero:
            colours = plus_scaled(colours, four_at(hidden, np.uint64(4 * x)), m)
        w += k + m
        f += farther[x]
        put_four(sums, o, colours)
        sums[o + _FIFTH], sums[o + _SIXTH] = w, f


_FIFTH, _SIXTH = np.uint64(4), np.uint64(5)


@kernel
def _sum_beyond(pixel, hidden, own, behind, farther, sums):
    """The same of pixels beyond the frame, each as its last one: ``pixel``, ``hidden``, ``own`` ..."""
    for x in range(sums.size // SUMMED - 1):
        o = SUMMED * x
        for c in range(4):
            sums[o + SUMMED + c] = sums[o + c] + own * pixel[c] + behind * hidden[c]
        sums[o + SUMMED + 4] = sums[o + 4] + own + behind
        sums[o + SUMMED + 5] = sums[o + 5] + farther


@kernel
def _fill_row(
    pixels, index, share, hidden_pixels, hidden, hidden_share, plane, left, clear, shares, nothing, sums
):
    """``sums``, flat: running sums along a row from ``left`` on, which may lie beyond the frame.

    ``clear``: 0 where the frame's last pixels go on, 1 where nothing does, 2 where the row is not in it.
    ``shares``: ``(3, N)`` to work in; ``nothing``: zeros.
    """
    width, columns = index.size, sums.size // SUMMED - 1
    begin, end = min(max(left, 0), width - 1), max(min(left + columns, width), 1)
    count = end - begin
    own, behind, farther = shares[0, :count], shares[1, :count], shares[2, :count]
    _shares_row(
        index[begin:end], share[begin:end], hidden[begin:end], hidden_share[begin:end], plane, own, behind,
        farther,
    )  # fmt: skip
    colours = nothing if clear == 2 else pixels[4 * begin : 4 * end]
    covered = nothing if clear == 2 else hidden_pixels[4 * begin : 4 * end]
    before, after = begin - left, left + columns - end
    sums[:SUMMED] = 0
    edge, beside = (nothing, nothing) if clear > 0 else (colours[:4], covered[:4])
    _sum_beyond(edge, beside, own[0], behind[0], farther[0], sums[: SUMMED * (before + 1)])
    _sum_row(colours, covered, own, behind, farther, sums[SUMMED * before : SUMMED * (before + count + 1)])
    edge, beside = (nothing, nothing) if clear > 0 else (colours[4 * count - 4 :], covered[4 * count - 4 :])
    _sum_beyond(edge, beside, own[-1], behind[-1], farther[-1], sums[SUMMED * (columns - after) :])


@inline
def _what_row_holds(cells, hidden_cells, y, left, right, plane):
    """By the bits of the cells alone."""
    near = _within(cells, y, y + 1, left, right)
    if (near | _within(hidden_cells, y, y + 1, left, right)) >> plane & 1:
        return MIXED
    farther = near & ((np.int64(1) << plane) - 1)
    return NOTHING if farther == 0 else FARTHER if farther == near else MIXED


@kernel
def _add(sums, weight, out):
    for x in range(out.size):
        out[x] += weight * sums[x]


@kernel
def _sum_of(one, other, out):
    for x in range(out.size):
        out[x] = one[x] + other[x]


@inline
def _add_line(sums, line, reach, ends, shifts, weights, found):
    """What one line of an aperture takes of running sums along a row."""
    for e in range(ends[line], ends[line + 1]):
        shift = SUMMED * (reach + shifts[e])
        _add(sums[shift : shift + found.size], weights[e], found)


@kernel
def _lay(found, acc):
    """One plane over those that lie behind; ``acc``, ``(N, 5)`` flat: R, G, B, A and how much is known."""
    one = np.float32(1)
    for x in range(acc.size // 5):
        o, i = 5 * x, SUMMED * x
        w = found[i + 4]
        if w > TRACE:
            share = w / (w + max(found[i + 5], np.float32(0)))
            rest, each = one - share, share / w
            acc[o] = acc[o] * rest + found[i] * each
            acc[o + 1] = acc[o + 1] * rest + found[i + 1] * each
            acc[o + 2] = acc[o + 2] * rest + found[i + 2] * each
            acc[o + 3] = acc[o + 3] * rest + found[i + 3] * each
            acc[o + 4] = acc[o + 4] * rest + share


@kernel
def _finish(acc, pixels, r, g, b, a):
    for x in range(r.size):
        known = acc[5 * x + 4]
        if known > TRACE:
            share = np.float32(1) / known
            r[x], g[x] = acc[5 * x] * share, acc[5 * x + 1] * share
            b[x], a[x] = acc[5 * x + 2] * share, acc[5 * x + 3] * share
        else:
            r[x], g[x], b[x], a[x] = pixels[4 * x], pixels[4 * x + 1], pixels[4 * x + 2], pixels[4 * x + 3]


@kernel
def blur_tile(pixels, index, share, behind, hidden, hidden_share, cells, hidden_cells,
              reaches, mirrored, begins, ends, shifts, weights, shares, clear, top, left, out):  # fmt: skip
    """One tile: ``out``, ``(4, rows, columns)``, at ``top`` and ``left``; planes from the farthest on.

    ``begins``: where the lines of a plane's aperture begin in ``ends`` and ``shares``; ``ends``: where the
    running sums of a line end in ``shifts`` (to the right) and ``weights``; ``shares``: the sum of a line;
    ``mirrored``: whether a plane's aperture is the same upside down: its lines are done in pairs.
    """
    _, rows, columns = out.shape
    height = index.shape[0]
    acc = np.zeros((rows, 5 * columns), np.float32)
    found = np.empty(SUMMED * columns, np.float32)
    for plane in range(reaches.size):
        reach = reaches[plane]
        bottom, right = top + rows + reach, left + columns + reach
        near = _within(cells, top - reach, bottom, left - reach, right)
        own = (near | _within(hidden_cells, top - reach, bottom, left - reach, right)) >> plane & 1
        if not own:
            continue
        sums = np.empty((rows + 2 * reach, SUMMED * (columns + 2 * reach + 1)), np.float32)
        pair = np.empty(sums.shape[1], np.float32)
        holds = np.empty(rows + 2 * reach, np.int64)
        shares_of_row = np.empty((3, columns + 2 * reach), np.float32)
        nothing = np.zeros(4 * (columns + 2 * reach), np.float32)
        for j in range(rows + 2 * reach):
            y = min(max(top - reach + j, 0), height - 1)
            in_frame = y == top - reach + j
            holds[j] = _what_row_holds(cells, hidden_cells, y, left - reach, right, plane)
            if holds[j] == MIXED:
                _fill_row(
                    pixels[y], index[y], share[y], behind[y], hidden[y], hidden_share[y], plane, left - reach,
                    0 if not clear else 1 if in_frame else 2, shares_of_row, nothing, sums[j],
                )  # fmt: skip
        for j in range(rows):
            found[:] = 0
            farther = np.float32(0)
            for i in range(reach + 1):
                line, other = begins[plane] + i, begins[plane] + 2 * reach - i
                up, down = j + i, j + 2 * reach - i
                if i < reach and mirrored[plane] and holds[up] == MIXED and holds[down] == MIXED:
                    _sum_of(sums[up], sums[down], pair)
                    _add_line(pair, line, reach, ends, shifts, weights, found)
                    continue
                if holds[up] == MIXED:
                    _add_line(sums[up], line, reach, ends, shifts, weights, found)
                if i < reach and holds[down] == MIXED:
                    _add_line(sums[down], other, reach, ends, shifts, weights, found)
                farther += shares[line] if holds[up] == FARTHER else np.float32(0)
                farther += shares[other] if i < reach and holds[down] == FARTHER else np.float32(0)
            if farther > 0:
                for x in range(columns):
                    found[SUMMED * x + 5] += farther
            _lay(found, acc[j])
    for j in range(rows):
        here = pixels[top + j, 4 * left :]
        _finish(acc[j], here, out[0, j], out[1, j], out[2, j], out[3, j])


@kernel
def unhidden(pixels, coc, hidden, colours, circles):
    """Flat, of as many pixels: ``colours``, four each, and ``circles``, two each: circle and how much is
    known; all 0 where it is ``hidden``."""
    for i in range(coc.size):
        k = np.float32(0) if hidden[i] else np.float32(1)
        for c in range(4):
            colours[4 * i + c] = pixels[4 * i + c] * k
        circles[2 * i], circles[2 * i + 1] = coc[i] * k, k


@kernel
def filled(colours, circles, wide, wide_circles):
    """In place: over how much is known, and where that is 0, what is ``wide``."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(circles.size // 2):
        known = circles[2 * i + 1]
        if known == one:
            continue
        if known > zero:
            for c in range(4):
                colours[4 * i + c] /= known
            circles[2 * i] /= known
        else:
            for c in range(4):
                colours[4 * i + c] = wide[4 * i + c]
            circles[2 * i] = wide_circles[2 * i]
