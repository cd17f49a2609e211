"""Motion: how far each point moves in the picture until the next frame, in pixels, x right, y down."""

from __future__ import annotations

import numpy as np

from ...numeric.blocks import new_array
from ...numeric.jit import kernel
from ..model import Floats
from ..seen import Seen
from ..shot import Shot
from .base import Given, Pass, channels


def way_of(seen: Seen) -> Floats:
    """``(rows, width, 2)`` pixels a frame, of one sample; 0 where nothing is."""
    return seen.one(seen.each(_way))


def _way(shot: Shot) -> Floats:
    later = shot.moment.later
    assert later is not None  # asked for in film.render
    way = new_array((len(shot.rows), 2))
    now, then = shot.moment.lens.matrix, later.lens.matrix @ later.moves
    move(shot.met.position, shot.met.part, now, then, way)
    return shot.spread(way)


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    return channels("motion", "XY", way_of(seen))


@kernel
def move(position, part, now, then, way):  # type: ignore[no-untyped-def]
    """Pixels then less pixels now, by matrices ``(3, 4)`` to pixels times depth, and depth."""
    for i in range(part.size):
        x, y, z = np.float64(position[i, 0]), np.float64(position[i, 1]), np.float64(position[i, 2])
        m = then[part[i]]
        depth_now = now[2, 0] * x + now[2, 1] * y + now[2, 2] * z + now[2, 3]
        depth_then = m[2, 0] * x + m[2, 1] * y + m[2, 2] * z + m[2, 3]
        for k in range(2):
            a = (now[k, 0] * x + now[k, 1] * y + now[k, 2] * z + now[k, 3]) / depth_now
            b = (m[k, 0] * x + m[k, 1] * y + m[k, 2] * z + m[k, 3]) / depth_then
            way[i, k] = b - a


PASS = Pass(
    name="motion",
    help="Movement to the next frame in pixels, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    needs="later",
    coded="no",
    unit="pixels a frame, x right, y down",
)
