"""Motion: how far each point moves in the picture until the next frame, in pixels, x right, y down."""

from __future__ import annotations

import numpy as np

from ...numeric.blocks import new_array
from ...numeric.jit import kernel
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    assert seen.later is not None  # asked for in film.render
    way = new_array((*seen.shape, 2))
    now, then = seen.lens.matrix, seen.later.lens.matrix @ seen.later.moves
    move(seen.position.reshape(-1, 3), seen.part.reshape(-1), now, then, way.reshape(-1, 2))
    return channels("motion", "XY", seen.one(way))


@kernel
def move(position, part, now, then, way):  # type: ignore[no-untyped-def]
    """Pixels then less pixels now, by matrices ``(3, 4)`` to pixels times depth, and depth."""
    for i in range(part.size):
        way[i, 0], way[i, 1] = 0, 0
        if part[i] < 0:
            continue
        x, y, z = np.float64(position[i, 0]), np.float64(position[i, 1]), np.float64(position[i, 2])
        m = then[part[i]]
        depth_now = now[2, 0] * x + now[2, 1] * y + now[2, 2] * z + now[2, 3]
        depth_then = m[2, 0] * x + m[2, 1] * y + m[2, 2] * z + m[2, 3]
        for k in range(2):
            a = (now[k, 0] * x + now[k, 1] * y + now[k, 2] * z + now[k, 3]) / depth_now
            b = (m[k, 0] * x + m[k, 1] * y + m[k, 2] * z + m[k, 3]) / depth_then
            way[i, k] = b - a


PASS = Pass("motion", "Movement to the next frame in pixels, unmixed.", "data", False, "float", _fill)
