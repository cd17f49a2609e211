"""A picture looked up by a UV pass, pixel by pixel: places, footprint, pyramid, one after another."""

from __future__ import annotations

from math import floor

import cv2
import numpy as np

from .pixels import limited

REACH, PROBES = 4, 8
ROWS = {
    "wrap": lambda p, n: p % n,
    "mirror": lambda p, n: min(p % (2 * n), 2 * n - 1 - p % (2 * n)),
    "clamp": lambda p, n: min(max(p, 0), n - 1),
    "clear": lambda p, n: p if 0 <= p < n else None,
}


def catmull_rom(t):
    t = abs(t)
    return (1.5 * t - 2.5) * t * t + 1 if t <= 1 else ((-0.5 * t + 2.5) * t - 4) * t + 2 if t < 2 else 0.0


def read(picture, s, t, beyond, weight, taps):
    height, width = picture.shape[:2]
    x, y = s * width - 0.5, t * height - 0.5
    total = np.zeros(4)
    for j in range(floor(y) - taps // 2 + 1, floor(y) + taps // 2 + 1):
        for i in range(floor(x) - taps // 2 + 1, floor(x) + taps // 2 + 1):
            row, column = ROWS[beyond](j, height), ROWS[beyond](i, width)
            if row is not None and column is not None:
                total += weight(j - y) * weight(i - x) * picture[row, column]
    return total


def linear(picture, s, t, beyond):
    return read(picture, s, t, beyond, lambda d: max(0.0, 1 - abs(d)), 2)


def slope(u, v, trust, y, x, dy, dx):
    """Of both neighbours the way to the one that jumps less."""
    ways = []
    for sign in (1, -1):
        b, a = y + sign * dy, x + sign * dx
        if 0 <= b < u.shape[0] and 0 <= a < u.shape[1] and trust[b, a]:
            ways.append(((u[b, a] - u[y, x]) * sign, (v[b, a] - v[y, x]) * sign))
    return np.array(min(ways, key=lambda w: abs(w[0]) + abs(w[1]), default=(0.0, 0.0)))


def nearest(trust, y, x):
    found = [
        ((b - y) ** 2 + (a - x) ** 2, b, a)
        for b in range(max(0, y - REACH), min(trust.shape[0], y + REACH + 1))
        for a in range(max(0, x - REACH), min(trust.shape[1], x + REACH + 1))
        if trust[b, a]
    ]
    far, b, a = min(found, default=(999, y, x))
    return (b, a) if far <= REACH * REACH else (y, x)


def looked_up(art, u, v, share, matrix, step):
    """``(H, W, 4)``, times the share."""
    pyramid = [art]
    while max(pyramid[-1].shape[:2]) > 1:
        height, width = pyramid[-1].shape[:2]
        size = max(1, width // 2), max(1, height // 2)
        pyramid.append(cv2.resize(pyramid[-1], size, interpolation=cv2.INTER_AREA))
    u, v = u.astype(np.float32), v.astype(np.float32)
    trust = share >= np.float32(0.999)
    out = np.zeros((*u.shape, 4))
    for y in range(u.shape[0]):
        for x in range(u.shape[1]):
            if share[y, x] > 0:
                out[y, x] = one(pyramid, u, v, trust, matrix, step, y, x) * share[y, x]
    return out


def one(pyramid, u, v, trust, matrix, step, y, x):
    b, a = (y, x) if trust[y, x] else nearest(trust, y, x)
    right, down = slope(u, v, trust, b, a, 0, 1), slope(u, v, trust, b, a, 1, 0)
    place = np.array([u[b, a], v[b, a]]) + right * (x - a) + down * (y - b)
    s, t = matrix @ [*place, 1]
    height, width = pyramid[0].shape[:2]
    ways = [matrix[:, :2] @ w for w in (right, down)]
    # in float32, so that the number of samples is decided alike
    (ax, ay), (bx, by) = (np.array(ways, np.float32) * np.float32([width, height])).astype(np.float32)
    longest = np.sqrt(max(ax * ax + ay * ay, bx * bx + by * by))
    if not step.filtering or longest <= 1:
        if step.between == "linear":
            return linear(pyramid[0], s, t, step.beyond)
        return limited(read(pyramid[0], s, t, step.beyond, catmull_rom, 4)[None])[0]
    shorter = max(abs(ax * by - ay * bx) / longest, np.float32(1))
    probes = min(PROBES, max(1, floor(longest / shorter + np.float32(0.5))))
    shorter = max(shorter, longest / np.float32(probes))
    level = 0
    while shorter >= 2:
        shorter, level = shorter / 2, level + 1
    low, high = (pyramid[min(n, len(pyramid) - 1)] for n in (level, level + 1))
    ds, dt = ways[0] if ax * ax + ay * ay >= bx * bx + by * by else ways[1]
    total = np.zeros(4)
    for k in range(probes):
        at = (k + 0.5) / probes - 0.5
        where = s + at * ds, t + at * dt, step.beyond
        total += (2 - shorter) * linear(low, *where) + (shorter - 1) * linear(high, *where)
    return total / probes


def thinned(plane, level):
    """A plane of places made smaller: of the four pixels in the middle the mean where they are alike."""
    step, half = 2**level, 2**level // 2
    height, width = (-(-n // step) * step for n in plane.shape)
    wide = np.pad(plane, [(0, height - plane.shape[0]), (0, width - plane.shape[1])])
    four = [wide[half - j :: step, half - i :: step] for j in (1, 0) for i in (1, 0)]
    return np.where(np.ptp(four, axis=0) < 0.05, np.mean(four, axis=0), four[0])


def uv_map(p, s, share, find):
    if not s.second:
        return np.zeros_like(p) if s.laid == "alone" else p
    u, v = (find.unmixed(n) for n in (s.u, s.v))
    cover = find.unmixed(s.coverage) if s.coverage else p[..., 3]
    art = find.named(s.second)
    back = looked_up(art, u, v, cover, s.matrix(), s)
    if s.laid == "alone":
        return back
    # the share of the layer that is covered
    most = np.maximum(p[..., 3], cover)
    return back + p * (1 - back[..., 3] / np.where(most > 0, most, 1))[..., None]
