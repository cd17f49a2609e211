"""A layer that is repeated: its copies, by their rule and by chance."""

from __future__ import annotations

import numpy as np


def copies(layer):
    """The copies of a repeated layer, the farthest first."""
    r, found = layer.repeat, []
    for n in range(r.count):
        luck = [chance(r.seed, n, field) for field in range(6)]
        scale = r.scale**n * (1 + r.chance_scale * luck[2])
        place = {
            "x": layer.transform.x + n * r.x + r.chance_x * luck[0],
            "y": layer.transform.y + n * r.y + r.chance_y * luck[1],
            "scale": layer.transform.scale * scale,
            "rotation": layer.transform.rotation + n * r.rotation + r.chance_rotation * luck[3],
        }
        fields = {
            "transform": layer.transform.model_copy(update=place), "repeat": None,
            "offset": layer.offset + n * r.time + round(r.chance_time * luck[4]),
            "opacity": r.opacity**n * (1 - r.chance_opacity * (luck[5] + 1) / 2),
        }  # fmt: skip
        found.append((scale, layer.model_copy(update=fields)))
    if r.order == "larger-in-front":
        found.sort(key=lambda row: row[0])
    rows = [row for _, row in found]
    return rows[::-1] if r.order == "first-in-front" else rows


def chance(seed, copy, field):
    """The 32-bit mixing function "lowbias32" (Wellons 2018, from memory), as -1 to 1."""
    x = np.uint32((seed * 0x9E3779B1 + copy * 0x85EBCA77 + field * 0xC2B2AE3D + 1) % 2**32)
    with np.errstate(over="ignore"):
        for shift_by, factor in ((16, 0x7FEB352D), (15, 0x846CA68B), (16, 1)):
            x = (x ^ (x >> np.uint32(shift_by))) * np.uint32(factor)
    return int(x) / (2**31 - 1) - 1
