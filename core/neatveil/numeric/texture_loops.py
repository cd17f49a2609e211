"""The loops of looking a picture up: see `texture`."""

# mypy: disable-error-code="no-untyped-def,misc,call-arg,var-annotated,assignment"

from __future__ import annotations

import numpy as np

from .four import four_at, no_four, plus_scaled, put_four
from .gather import AT_ONCE, add_at, any_beyond, index_beyond, read_at
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
def _plain_places(u, v, share, matrix, s, t):
    """As `places_of`, where no pixel has to be continued."""
    most, zero, nothing = np.float32(1e6), np.float32(0), np.float32(np.nan)
    m00, m01, m02 = matrix[0, 0], matrix[0, 1], matrix[0, 2]
    m10, m11, m12 = matrix[1, 0], matrix[1, 1], matrix[1, 2]
    for i in range(u.size):
        pu, pv = u[i], v[i]
        there = (abs(pu) < most) & (abs(pv) < most) & (share[i] > zero)
        s[i] = m00 * pu + m01 * pv + m02 if there else nothing
        t[i] = m10 * pu + m11 * pv + m12 if there else nothing


@kernel
def _fold(x, size, beyond):
    """Places in pixels along one axis, in place, to where the same is seen: see `_inside`."""
    half, wide = np.float32(0.5), np.float32(size)
    # a loop for each: one with a branch does not vectorise
    if beyond == 0:
        for i in range(x.size):
            x[i] -= np.floor((x[i] + half) / wide) * wide
    elif beyond == 1:
        both = wide + wide
        for i in range(x.size):
            turn = x[i] + half - np.floor((x[i] + half) / both) * both
            x[i] = min(turn, both - turn) - half


@kernel
def _to_pixels(s, t, width, height, beyond, x, y):
    """Places in 0..1 to pixels, from the first one's centre; returns `any_beyond` of them."""
    half, wide, high = np.float32(0.5), np.float32(width), np.float32(height)
    for i in range(s.size):
        x[i] = s[i] * wide - half
    for i in range(t.size):
        y[i] = t[i] * high - half
    some_beyond = any_beyond(x, y, width, height)
    if some_beyond:  # seldom, and takes longer
        _fold(x, width, beyond)
        _fold(y, height, beyond)
    return some_beyond


@kernel
def look_up_linear(s, t, share, pixels, width, height, beyond, r, g, b, a):
    """The picture itself, ``pixels`` flat, at places in 0..1 by bilinear weights, times ``share``."""
    where = np.empty(AT_ONCE, np.int32)
    x, y = np.empty(AT_ONCE, np.float32), np.empty(AT_ONCE, np.float32)
    fx, fy = np.empty(AT_ONCE, np.float32), np.empty(AT_ONCE, np.float32)
    for i in range(0, s.size, AT_ONCE):
        k = min(s.size, i + AT_ONCE)
        n = k - i
        some_beyond = _to_pixels(s[i:k], t[i:k], width, height, beyond, x[:n], y[:n])
        read_at(
            x[:n], y[:n], some_beyond, share[i:k], s[i:k], t[i:k], pixels, width, height, beyond,
            where[:n], fx[:n], fy[:n], r[i:k], g[i:k], b[i:k], a[i:k],
        )  # fmt: skip


@kernel
def look_up_plainly(u, v, share, trust, matrix, pixels, width, height, beyond, r, g, b, a):
    """`look_up_linear` of what a map names, flat; True, and not done, where a pixel has to be continued."""
    where = np.empty(AT_ONCE, np.int32)
    x, y = np.empty(AT_ONCE, np.float32), np.empty(AT_ONCE, np.float32)
    fx, fy = np.empty(AT_ONCE, np.float32), np.empty(AT_ONCE, np.float32)
    for i in range(0, u.size, AT_ONCE):
        k = min(u.size, i + AT_ONCE)
        n = k - i
        if any_mixed(share[i:k], trust[i:k]):
            return True
        _plain_places(u[i:k], v[i:k], share[i:k], matrix, x[:n], y[:n])
        some_beyond = _to_pixels(x[:n], y[:n], width, height, beyond, x[:n], y[:n])
        read_at(
            x[:n], y[:n], some_beyond, share[i:k], u[i:k], v[i:k], pixels, width, height, beyond,
            where[:n], fx[:n], fy[:n], r[i:k], g[i:k], b[i:k], a[i:k],
        )  # fmt: skip
    return False


@inline
def _cubic(pixels, width, height, s, t, beyond):
    """The picture, ``pixels`` flat, at a place in 0..1 by Catmull-Rom weights."""
    half = np.float32(0.5)
    x, y = s * np.float32(width) - half, t * np.float32(height) - half
    x0, y0 = np.int64(np.floor(x)), np.int64(np.floor(y))
    fx, fy = x - np.float32(x0), y - np.float32(y0)
    across, down = cubic_weights(fx), cubic_weights(fy)
    found = no_four()
    for j in range(4):
        row = index_beyond(y0 + j - 1, height, beyond)
        if row < 0:
            continue
        for i in range(4):
            column = index_beyond(x0 + i - 1, width, beyond)
            if column >= 0:
                at = np.uint64(4 * (row * width + column))
                found = plus_scaled(found, four_at(pixels, at), down[j] * across[i])
    return found


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
def any_smaller(s, probes):
    """Whether the picture is made smaller at any place."""
    found = False
    for x in range(s.size):
        found |= (s[x] == s[x]) & (probes[x] > 0)
    return found


@kernel
def _most_and_levels(s, lengths, probes, found):
    """``found``: the most probes of any place, and the base-2 logarithms of the least and the largest length,
    rounded down."""
    most, least, largest = np.int32(0), np.float32(np.inf), np.float32(1)
    for x in range(s.size):
        seen = s[x] == s[x]
        most = max(most, max(probes[x], np.int32(1)) if seen else np.int32(0))
        least, largest = min(least, lengths[x]), max(largest, lengths[x] if seen else largest)
    found[0] = most
    found[1], found[2] = (np.log2(least), np.log2(largest)) if most > 0 else (0, 0)


@kernel
def _probe(s, t, probes, ds, dt, k, at_s, at_t, share):
    """Where the ``k``-th samples lie, and their shares of the whole; 0 where there are not as many."""
    one, half, zero, nth = np.float32(1), np.float32(0.5), np.float32(0), np.float32(k)
    for x in range(s.size):
        count = max(np.float32(probes[x]), one)
        w = one / count
        far = (nth + half) * w - half if probes[x] > 1 else zero
        at_s[x], at_t[x] = s[x] + far * ds[x], t[x] + far * dt[x]
        share[x] = w if nth < count else zero


@kernel
def _of_level(lengths, share, level, last, out):
    """How much of a level counts for a place, by how near it lies to the place's length."""
    bits, one, zero = lengths.view(np.int32), np.float32(1), np.float32(0)
    for x in range(lengths.size):
        low = (bits[x] >> 23) - 127  # the exponent: the base-2 logarithm, rounded down
        part = np.float32(bits[x] & 0x7FFFFF) * np.float32(1 / 8388608)
        part = part if low < last else zero
        low = min(low, last)
        out[x] = share[x] * (one - part if low == level else part if low == level - 1 else zero)


@kernel
def look_up(s, t, lengths, probes, ds, dt, pixels, begins, widths, heights, beyond, found):
    """``found``, four a pixel, flat: R, G, B, A of the pyramid, ``pixels`` flat, at some places in 0..1.

    The two levels about a length are blended, at as many probes; where there are none, the picture itself by
    bilinear weights.
    """
    last, size = begins.size - 1, min(AT_ONCE, s.size)
    where, range_of = np.empty(size, np.int32), np.empty(3, np.int64)
    at_s, at_t, share = np.empty(size, np.float32), np.empty(size, np.float32), np.empty(size, np.float32)
    x, y, fx = np.empty(size, np.float32), np.empty(size, np.float32), np.empty(size, np.float32)
    fy, part = np.empty(size, np.float32), np.empty(size, np.float32)
    found[:] = 0
    for i in range(0, s.size, AT_ONCE):
        k = min(s.size, i + AT_ONCE)
        n = k - i
        _most_and_levels(s[i:k], lengths[i:k], probes[i:k], range_of)
        for probe in range(range_of[0]):
            _probe(s[i:k], t[i:k], probes[i:k], ds[i:k], dt[i:k], probe, at_s[:n], at_t[:n], share[:n])
            for level in range(min(range_of[1], last), min(range_of[2] + 1, last) + 1):
                _of_level(lengths[i:k], share[:n], level, last, part[:n])
                width, height = widths[level], heights[level]
                some_beyond = _to_pixels(at_s[:n], at_t[:n], width, height, beyond, x[:n], y[:n])
                picture = pixels[4 * begins[level] : 4 * (begins[level] + width * height)]
                add_at(
                    x[:n], y[:n], some_beyond, part[:n], picture, width, height, beyond,
                    where[:n], fx[:n], fy[:n], found[4 * i : 4 * k],
                )  # fmt: skip


@kernel
def look_up_cubic(s, t, probes, pixels, width, height, beyond, found):
    """The same by Catmull-Rom weights, of pixels where the picture is not made smaller."""
    for x in range(s.size):
        if probes[x] == 0 and s[x] == s[x]:
            ps, pt = _inside(s[x], beyond), _inside(t[x], beyond)
            put_four(found, np.uint64(4 * x), _cubic(pixels, width, height, ps, pt, beyond))


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
