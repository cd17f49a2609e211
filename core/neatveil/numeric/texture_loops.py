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


@kernel
def _at_edge(pixels, begin, width, height, x0, y0, fx, fy, beyond):
    """As `_linear` where one of the four pixels lies beyond the picture."""
    r, g, b, a = np.float32(0), np.float32(0), np.float32(0), np.float32(0)
    for j in range(2):
        row = _index(y0 + j, height, beyond)
        for i in range(2):
            column = _index(x0 + i, width, beyond)
            if row >= 0 and column >= 0:
                k = begin + row * width + column
                w = (fx if i else np.float32(1) - fx) * (fy if j else np.float32(1) - fy)
                r += w * pixels[k, 0]
                g += w * pixels[k, 1]
                b += w * pixels[k, 2]
                a += w * pixels[k, 3]
    return r, g, b, a


@inline
def _linear(pixels, begin, width, height, s, t, beyond):
    """The picture at a place in 0..1 of it."""
    one, half = np.float32(1), np.float32(0.5)
    x, y = s * np.float32(width) - half, t * np.float32(height) - half
    x0, y0 = np.int64(np.floor(x)), np.int64(np.floor(y))
    fx, fy = x - np.float32(x0), y - np.float32(y0)
    if x0 < 0 or y0 < 0 or x0 >= width - 1 or y0 >= height - 1:
        return _at_edge(pixels, begin, width, height, x0, y0, fx, fy, beyond)
    k = begin + y0 * width + x0
    n = k + width
    wk, wm, wn, wo = (one - fx) * (one - fy), fx * (one - fy), (one - fx) * fy, fx * fy
    return (
        wk * pixels[k, 0] + wm * pixels[k + 1, 0] + wn * pixels[n, 0] + wo * pixels[n + 1, 0],
        wk * pixels[k, 1] + wm * pixels[k + 1, 1] + wn * pixels[n, 1] + wo * pixels[n + 1, 1],
        wk * pixels[k, 2] + wm * pixels[k + 1, 2] + wn * pixels[n, 2] + wo * pixels[n + 1, 2],
        wk * pixels[k, 3] + wm * pixels[k + 1, 3] + wn * pixels[n, 3] + wo * pixels[n + 1, 3],
    )


@kernel
def _cubic(pixels, width, height, s, t, beyond):
    """The same of the picture itself by Catmull-Rom weights."""
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
            w, k = down[j] * across[i], row * width + column
            r += w * pixels[k, 0]
            g += w * pixels[k, 1]
            b += w * pixels[k, 2]
            a += w * pixels[k, 3]
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
def look_up(
    s, t, slopes, matrix, share, pixels, begins, widths, heights, filtered, between, beyond, r, g, b, a
):  # fmt: skip
    """Fill R, G, B, A of some rows with what is seen of the picture, times a share.

    ``slopes``: of these rows, as of `places_of`; read where it is ``filtered``.
    """
    for y in range(r.shape[0]):
        _look_up_row(
            s[y], t[y], slopes[0, y], slopes[1, y], slopes[2, y], slopes[3, y], matrix, share[y], pixels,
            begins, widths, heights, filtered, between, beyond, r[y], g[y], b[y], a[y],
        )  # fmt: skip


@kernel
def _look_up_row(
    s, t, ux, vx, uy, vy, matrix, share, pixels, begins, widths, heights, filtered, between, beyond, r, g, b,
    a,
):  # fmt: skip
    last, zero, one, trace = begins.size - 1, np.float32(0), np.float32(1), np.float32(1e-6)
    m00, m01, m10, m11 = matrix[0, 0], matrix[0, 1], matrix[1, 0], matrix[1, 1]
    width, height = widths[0], heights[0]
    for x in range(s.size):
        red, green, blue, alpha = zero, zero, zero, zero
        if s[x] == s[x]:  # a number
            low, f, probes, ds, dt = 0, zero, 0, zero, zero
            if filtered:
                low, f, probes, ds, dt = _footprint(
                    m00 * ux[x] + m01 * vx[x], m10 * ux[x] + m11 * vx[x],
                    m00 * uy[x] + m01 * vy[x], m10 * uy[x] + m11 * vy[x], width, height,
                )  # fmt: skip
            if probes == 0:
                ps, pt = _inside(s[x], beyond), _inside(t[x], beyond)
                if between == 1:
                    red, green, blue, alpha = _cubic(pixels, width, height, ps, pt, beyond)
                else:
                    red, green, blue, alpha = _linear(pixels, 0, width, height, ps, pt, beyond)
            else:
                low, high, w = min(low, last), min(low + 1, last), one / np.float32(probes)
                for k in range(probes):
                    at = (np.float32(k) + np.float32(0.5)) * w - np.float32(0.5)
                    # of each sample by itself: mirrored, the longer side runs the other way
                    ps, pt = _inside(s[x] + at * ds, beyond), _inside(t[x] + at * dt, beyond)
                    c = _linear(pixels, begins[low], widths[low], heights[low], ps, pt, beyond)
                    d = _linear(pixels, begins[high], widths[high], heights[high], ps, pt, beyond)
                    red += w * (c[0] + f * (d[0] - c[0]))
                    green += w * (c[1] + f * (d[1] - c[1]))
                    blue += w * (c[2] + f * (d[2] - c[2]))
                    alpha += w * (c[3] + f * (d[3] - c[3]))
        # what the cubic's lobes add beyond 0..1 of alpha is left out, with its colour
        if alpha < trace:
            red, green, blue, alpha = max(red, zero), max(green, zero), max(blue, zero), max(alpha, zero)
        part = share[x] if alpha <= one else share[x] / alpha
        r[x], g[x], b[x] = red * part, green * part, blue * part
        a[x] = share[x] if alpha > one - trace else alpha * share[x]


@inline
def _footprint(sx, tx, sy, ty, width, height):
    """Level of the pyramid and share of the next one, samples along the longer side, and that side.

    No samples where the picture is not made smaller.
    """
    one, most = np.float32(1), np.float32(MOST_PROBES)
    # in pixels of the picture
    ax, ay = sx * np.float32(width), tx * np.float32(height)
    bx, by = sy * np.float32(width), ty * np.float32(height)
    along, across = ax * ax + ay * ay, bx * bx + by * by
    longest = np.sqrt(max(along, across))
    if longest <= one:
        return 0, np.float32(0), 0, np.float32(0), np.float32(0)
    shorter = max(max(abs(ax * by - ay * bx) / longest, longest / most), one)
    probes = min(MOST_PROBES, max(1, int(longest / shorter + np.float32(0.99))))
    low = 0
    while shorter >= np.float32(2):
        shorter *= np.float32(0.5)
        low += 1
    if along >= across:
        return low, shorter - one, probes, sx, tx
    return low, shorter - one, probes, sy, ty
