"""The loops of looking a picture up: see `texture`."""

# mypy: disable-error-code="no-untyped-def,misc"

from __future__ import annotations

import numpy as np

from .jit import inline, kernel
from .resample import cubic_weights

#: Most samples along the longer side.
MOST_PROBES = 8
#: As far as a place without trust is filled from one with, in pixels.
REACH = 4


@kernel
def any_mixed(share, trust):
    """Whether a pixel that is seen is not trusted."""
    found = False
    for i in range(share.size):
        found |= trust[i] == 0 and share[i] > np.float32(0)
    return found


@kernel
def to_pixels(s, t, share, seen, width, height):
    """Places in 0..1 to pixel centres, in place; what is nowhere is not ``seen``."""
    half, zero = np.float32(0.5), np.float32(0)
    for i in range(s.size):
        there = s[i] == s[i]
        seen[i] = share[i] if there else zero
        s[i] = s[i] * width - half if there else zero
        t[i] = t[i] * height - half if there else zero


@kernel
def plain_places(u, v, share, trust, matrix, width, height, s, t, seen):
    """`places_of` and `to_pixels` in one go, where no pixel has to be continued; True where one has."""
    most, half, zero = np.float32(1e6), np.float32(0.5), np.float32(0)
    m00, m01, m02 = matrix[0, 0] * width, matrix[0, 1] * width, matrix[0, 2] * width - half
    m10, m11, m12 = matrix[1, 0] * height, matrix[1, 1] * height, matrix[1, 2] * height - half
    mixed = False
    for i in range(u.size):
        pu, pv = u[i], v[i]
        there = abs(pu) < most and abs(pv) < most and share[i] > zero
        mixed |= trust[i] == 0 and share[i] > zero
        seen[i] = share[i] if there else zero
        s[i] = m00 * pu + m01 * pv + m02 if there else zero
        t[i] = m10 * pu + m11 * pv + m12 if there else zero
    return mixed


@kernel
def shared(pixels, share, r, g, b, a):
    for x in range(share.size):
        k = share[x]
        r[x], g[x], b[x], a[x] = (
            pixels[4 * x] * k,
            pixels[4 * x + 1] * k,
            pixels[4 * x + 2] * k,
            pixels[4 * x + 3] * k,
        )


@inline
def _index(place, size, beyond):
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
def _cubic(pixels, width, height, s, t, beyond):
    """The picture, ``pixels`` flat, at a place in 0..1 by Catmull-Rom weights."""
    half, zero = np.float32(0.5), np.float32(0)
    x, y = s * np.float32(width) - half, t * np.float32(height) - half
    x0, y0 = np.int64(np.floor(x)), np.int64(np.floor(y))
    fx, fy = x - np.float32(x0), y - np.float32(y0)
    across, down = cubic_weights(fx), cubic_weights(fy)
    r, g, b, a = zero, zero, zero, zero
    for j in range(4):
        row = _index(y0 + j - 1, height, beyond)
        if row < 0:
            continue
        for i in range(4):
            column = _index(x0 + i - 1, width, beyond)
            if column < 0:
                continue
            w, k = down[j] * across[i], 4 * (row * width + column)
            r += w * pixels[k]
            g += w * pixels[k + 1]
            b += w * pixels[k + 2]
            a += w * pixels[k + 3]
    return r, g, b, a


@kernel
def _slope_row(u, v, same, u1, v1, trust1, same1, u0, v0, trust0, same0, out_u, out_v):
    """As `slopes_of` of one row, from its neighbours after and before; no branch, so that it vectorises."""
    endless = np.float32(np.inf)
    for x in range(u.size):
        du, dv, eu, ev = u1[x] - u[x], v1[x] - v[x], u[x] - u0[x], v[x] - v0[x]
        one = abs(du) + abs(dv) if trust1[x] != 0 and same1[x] == same[x] else endless
        other = abs(eu) + abs(ev) if trust0[x] != 0 and same0[x] == same[x] else endless
        one = one if one < endless else endless  # what is no number is no neighbour
        other = other if other < endless else endless
        back = other < one
        none = one == endless and not back
        out_u[x] = np.float32(0) if none else (eu if back else du)
        out_v[x] = np.float32(0) if none else (ev if back else dv)


@kernel
def slopes_of(u, v, trust, same, first, out):
    """How the map runs in some rows: ``out``, ``(4, rows, W)``, takes u's and v's change right, and down.

    Of both neighbours the one counts towards which it jumps less, of those that are trusted and of the same
    surface.
    """
    height, width = u.shape
    none = np.zeros(width, trust.dtype)
    for row in range(out.shape[1]):
        y = first + row
        below, above = min(y + 1, height - 1), max(y - 1, 0)
        _slope_row(
            u[y], v[y], same[y], u[below], v[below], trust[below] if y + 1 < height else none, same[below],
            u[above], v[above], trust[above] if y > 0 else none, same[above], out[2, row], out[3, row],
        )  # fmt: skip
        _slope_row(
            u[y, 1:-1], v[y, 1:-1], same[y, 1:-1], u[y, 2:], v[y, 2:], trust[y, 2:], same[y, 2:],
            u[y, :-2], v[y, :-2], trust[y, :-2], same[y, :-2], out[0, row, 1:-1], out[1, row, 1:-1],
        )  # fmt: skip
        if width > 1:  # the edges have one neighbour
            for x, at in ((0, 1), (width - 1, width - 2)):
                jump = abs(u[y, at] - u[y, x]) + abs(v[y, at] - v[y, x])
                known = trust[y, at] != 0 and same[y, at] == same[y, x] and jump < np.inf
                way = np.float32(at - x)
                out[0, row, x] = (u[y, at] - u[y, x]) * way if known else np.float32(0)
                out[1, row, x] = (v[y, at] - v[y, x]) * way if known else np.float32(0)


@inline
def _trusted_near(trust, y, x):
    """The nearest trusted pixel within reach; the pixel itself where there is none."""
    best, by, bx = REACH * REACH + 1, y, x
    for b in range(max(0, y - REACH), min(trust.shape[0], y + REACH + 1)):
        for a in range(max(0, x - REACH), min(trust.shape[1], x + REACH + 1)):
            far = (b - y) * (b - y) + (a - x) * (a - x)
            if far < best and trust[b, a]:
                best, by, bx = far, b, a
    return by, bx


@inline
def _inside(place, beyond):
    """The place in 0..1 at which the same is seen; where the picture ends, as it is."""
    if beyond == 0:
        return place - np.floor(place)
    if beyond == 1:
        turn = place - np.float32(2) * np.floor(place * np.float32(0.5))
        return min(turn, np.float32(2) - turn)
    return place


@kernel
def places_of(u, v, share, trust, slopes, matrix, first, above, s, t):
    """Where the pixels of some rows lie on the picture, in 0..1; NaN where nothing is seen.

    ``slopes``: ``(4, rows, W)`` as `slopes_of` gives them to the right and then down, from row ``above`` on:
    a pixel that is not trusted is continued from the nearest one that is, and is given its slopes.
    """
    most, nothing = np.float32(1e6), np.float32(np.nan)
    m00, m01, m02 = matrix[0, 0], matrix[0, 1], matrix[0, 2]
    m10, m11, m12 = matrix[1, 0], matrix[1, 1], matrix[1, 2]
    for row in range(s.shape[0]):
        y = first + row
        for x in range(s.shape[1]):
            pu, pv = u[y, x], v[y, x]
            if not trust[y, x]:
                if share[y, x] <= np.float32(0):
                    s[row, x] = t[row, x] = nothing
                    continue
                y0, x0 = _trusted_near(trust, y, x)
                dx, dy = np.float32(x - x0), np.float32(y - y0)
                k = y0 - above
                for c in range(4):  # it is as large there as here
                    slopes[c, y - above, x] = slopes[c, k, x0]
                pu = u[y0, x0] + slopes[0, k, x0] * dx + slopes[2, k, x0] * dy
                pv = v[y0, x0] + slopes[1, k, x0] * dx + slopes[3, k, x0] * dy
            seen = abs(pu) < most and abs(pv) < most
            s[row, x] = m00 * pu + m01 * pv + m02 if seen else nothing
            t[row, x] = m10 * pu + m11 * pv + m12 if seen else nothing


@kernel
def footprints(s, ux, vx, uy, vy, matrix, width, height, lengths, probes, ds, dt):
    """How much of the picture each pixel covers: ``lengths`` of its samples, in pixels of the picture, 1 or
    more; how many ``probes`` along the longer side, 0 where the picture is not made smaller, and that side.

    Nothing is looked up where ``s`` is NaN: the length has no end there. No branch, so that it vectorises.
    """
    one, half, most = np.float32(1), np.float32(0.5), np.float32(MOST_PROBES)
    endless = np.float32(np.inf)
    m00, m01, m10, m11 = matrix[0, 0], matrix[0, 1], matrix[1, 0], matrix[1, 1]
    for x in range(s.size):
        sx, tx = m00 * ux[x] + m01 * vx[x], m10 * ux[x] + m11 * vx[x]
        sy, ty = m00 * uy[x] + m01 * vy[x], m10 * uy[x] + m11 * vy[x]
        ax, ay, bx, by = sx * width, tx * height, sy * width, ty * height
        along, across = ax * ax + ay * ay, bx * bx + by * by
        longest = max(np.sqrt(max(along, across)), one)
        shorter = max(abs(ax * by - ay * bx) / longest, one)
        count = min(most, max(one, np.float32(np.int32(min(longest / shorter, most) + half))))
        seen = s[x] == s[x]
        lengths[x] = max(shorter, longest / count) if seen else endless
        probes[x] = (0 if longest <= one else np.int32(count)) if seen else 1
        ds[x], dt[x] = (sx, tx) if along >= across else (sy, ty)


@kernel
def range_of(s, lengths, probes, found):
    """``found``: the fewest and the most probes, the least and the largest length, of what is looked up."""
    fewest, most = MOST_PROBES, 0
    least, largest = np.float32(np.inf), np.float32(1)
    for x in range(s.size):
        seen = s[x] == s[x]
        fewest, most = min(fewest, probes[x] if seen else fewest), max(most, probes[x] if seen else 0)
        least, largest = min(least, lengths[x]), max(largest, lengths[x] if seen else largest)
    found[0], found[1] = fewest, most
    found[2], found[3] = least, largest


@kernel
def level_places(s, t, width, height, beyond, x, y):
    """Places in 0..1 to pixel centres of one level; what is nowhere lies in its corner."""
    half, zero = np.float32(0.5), np.float32(0)
    for i in range(s.size):
        there = s[i] == s[i]
        x[i] = _inside(s[i], beyond) * width - half if there else zero
        y[i] = _inside(t[i], beyond) * height - half if there else zero


@kernel
def add_level(found, lengths, level, acc):
    """``acc`` and ``found`` of four a pixel, flat: a level counts by how near it lies to a pixel's length."""
    bits = lengths.view(np.int32)
    for x in range(lengths.size):
        low = (bits[x] >> 23) - 127  # the exponent: the base-2 logarithm, rounded down
        part = np.float32(bits[x] & 0x7FFFFF) * np.float32(1 / 8388608)
        w = np.float32(1) - part if low == level else part if low == level - 1 else np.float32(0)
        for c in range(4):
            acc[4 * x + c] += w * found[4 * x + c]


@kernel
def look_up(s, t, lengths, probes, ds, dt, pixels, begins, widths, heights, beyond, found):
    """``found``, four a pixel, flat: R, G, B, A of the pyramid, ``pixels`` flat, at some places in 0..1.

    The two levels about a length are blended, at as many probes; where there are none, the picture itself by
    bilinear weights.
    """
    # one body without calls that take arrays: those count references, and take longer than the rest
    last, bits = np.int32(begins.size - 1), lengths.view(np.int32)
    one, half, zero = np.float32(1), np.float32(0.5), np.float32(0)
    for x in range(s.size):
        r, g, b, a = zero, zero, zero, zero
        count = max(probes[x], np.int32(1)) if s[x] == s[x] else np.int32(0)
        several = probes[x] > 1
        w = one / np.float32(max(count, np.int32(1)))
        low, part = np.int32((bits[x] >> 23) - 127), np.float32(bits[x] & 0x7FFFFF) * np.float32(1 / 8388608)
        part = part if low < last else zero
        low = min(low, last)
        for k in range(count):
            at = (np.float32(k) + half) * w - half if several else zero
            # of each sample by itself: mirrored, the longer side runs the other way
            ps, pt = _inside(s[x] + at * ds[x], beyond), _inside(t[x] + at * dt[x], beyond)
            for level in range(2):
                share = w * part if level else w - w * part
                if share <= zero:
                    continue
                begin, width, height = begins[low + level], widths[low + level], heights[low + level]
                px, py = ps * np.float32(width) - half, pt * np.float32(height) - half
                if zero <= px < np.float32(width - 1) and zero <= py < np.float32(height - 1):
                    x0, y0 = np.int32(px), np.int32(py)
                    fx, fy = px - np.float32(x0), py - np.float32(y0)
                    wo, wn = fx * fy * share, (one - fx) * fy * share
                    wm, wk = fx * (one - fy) * share, (one - fx) * (one - fy) * share
                    # unsigned, so that no index counts from the end
                    i = _FOUR * (np.uint64(begin) + np.uint64(y0) * np.uint64(width) + np.uint64(x0))
                    j = i + _FOUR * np.uint64(width)
                    r += wk * pixels[i] + wm * pixels[i + _FOUR] + wn * pixels[j] + wo * pixels[j + _FOUR]
                    i, j = i + _ONE, j + _ONE
                    g += wk * pixels[i] + wm * pixels[i + _FOUR] + wn * pixels[j] + wo * pixels[j + _FOUR]
                    i, j = i + _ONE, j + _ONE
                    b += wk * pixels[i] + wm * pixels[i + _FOUR] + wn * pixels[j] + wo * pixels[j + _FOUR]
                    i, j = i + _ONE, j + _ONE
                    a += wk * pixels[i] + wm * pixels[i + _FOUR] + wn * pixels[j] + wo * pixels[j + _FOUR]
                    continue
                left, top = np.floor(px), np.floor(py)
                fx, fy = px - left, py - top
                for n in range(4):  # the four neighbours, those beyond the edge by what stands for them
                    row = _index(np.int64(top) + n // 2, height, beyond)
                    column = _index(np.int64(left) + n % 2, width, beyond)
                    if row >= 0 and column >= 0:
                        wk = (fx if n % 2 else one - fx) * (fy if n // 2 else one - fy) * share
                        e = 4 * (begin + row * width + column)
                        r += wk * pixels[e]
                        g += wk * pixels[e + 1]
                        b += wk * pixels[e + 2]
                        a += wk * pixels[e + 3]
        found[4 * x], found[4 * x + 1], found[4 * x + 2], found[4 * x + 3] = r, g, b, a


_ONE, _FOUR = np.uint64(1), np.uint64(4)


@kernel
def look_up_cubic(s, t, probes, pixels, width, height, beyond, found):
    """The same by Catmull-Rom weights, of pixels where the picture is not made smaller."""
    for x in range(s.size):
        if probes[x] == 0 and s[x] == s[x]:
            ps, pt = _inside(s[x], beyond), _inside(t[x], beyond)
            r, g, b, a = _cubic(pixels, width, height, ps, pt, beyond)
            found[4 * x], found[4 * x + 1], found[4 * x + 2], found[4 * x + 3] = r, g, b, a


@kernel
def shared_within(pixels, share, r, g, b, a):
    """As `shared`; what the cubic's lobes add beyond 0..1 of alpha is left out, with its colour."""
    zero, one, trace = np.float32(0), np.float32(1), np.float32(1e-6)
    for x in range(share.size):
        red, green, blue, alpha = pixels[4 * x], pixels[4 * x + 1], pixels[4 * x + 2], pixels[4 * x + 3]
        least = zero if alpha < trace else np.float32(-np.inf)
        part = share[x] if alpha <= one else share[x] / alpha
        r[x], g[x], b[x] = max(red, least) * part, max(green, least) * part, max(blue, least) * part
        a[x] = share[x] if alpha > one - trace else max(alpha, least) * share[x]
