"""Steps that go by extra channels, each by data simple enough for a plain evaluation."""

from __future__ import annotations

import numpy as np
import scipy.ndimage as ndi

from . import shapes, uv


def motion_blur(p, s, share, find):
    """By vectors that are the same everywhere."""
    if s.shutter == 0:
        return p
    vx, vy = (find.unmixed(n)[0, 0] * share * (-1 if f else 1) for n, f in ((s.x, s.flip_x), (s.y, s.flip_y)))
    mode = "nearest" if s.border == "continue" else "grid-constant"
    moments = [s.shutter * ((i + 0.5) / s.samples - 0.5) for i in range(s.samples)]
    return np.mean([ndi.shift(p, (t * vy, t * vx, 0), order=1, mode=mode) for t in moments], 0)


def depth_blur(p, s, share, find):
    """By a depth that is the same everywhere: one disc."""
    if s.size == 0:
        return p
    d = find.unmixed(s.depth)[0, 0]
    away = max(abs(d - s.focus) - s.in_focus / 2, 0) / d * (s.near_amount if d < s.focus else s.far_amount)
    radius = min(away * s.size, s.largest) * share
    mode = "nearest" if s.border == "continue" else "constant"
    return ndi.correlate(p, shapes.disc(radius)[..., None], mode=mode) if radius > 0.35 else p


def over_edge(plane, alpha):
    """At an edge the value of the nearest pixel that is covered whole."""
    whole = alpha >= np.float32(0.999)
    out = plane.astype(float)
    for y, x in np.argwhere((alpha > 0) & ~whole):
        out[y, x] = plane[uv.nearest(whole, y, x)]
    return out


def fog(p, s, share, find):
    """By a depth without jumps."""
    if s.most == 0:
        return p
    d = find.unmixed(s.depth).astype(float)
    d = over_edge(1 / d if s.stored == "inverse" else d, p[..., 3].astype(np.float32))
    way = np.maximum(d - s.start, 0)
    if s.by == "density":
        t = 1 - np.exp(-s.density * way)
    else:
        t = np.clip(way / (s.end - s.start), 0, 1) if s.end > s.start else way > 0
    t = (t * s.most)[..., None]
    return np.concatenate([p[..., :3] * (1 - t) + t * np.array(s.colour) * p[..., 3:], p[..., 3:]], -1)


def relight(p, s, share, find):
    if s.stays == 1 and not any(s.lamp):
        return p
    alpha = p[..., 3].astype(np.float32)
    n = np.stack([over_edge(find.unmixed(c), alpha) for c in (s.x, s.y, s.z)], -1)
    n /= np.linalg.norm(n, axis=-1, keepdims=True)
    a, e = np.radians([s.azimuth, s.elevation])
    lamp = np.array([np.sin(a) * np.cos(e), np.sin(e), np.cos(a) * np.cos(e)])
    light = s.stays + np.array(s.lamp) * np.maximum(n @ lamp, 0)[..., None]
    return np.concatenate([p[..., :3] * light, p[..., 3:]], -1)
