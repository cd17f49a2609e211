"""Ambient occlusion: how much of an even sky each surface sees; 1 is all of it, 0 nothing.

One ray a sample, towards the hemisphere with the density of its cosine, so that the mean of the
rays that see the sky is the share of its light that arrives. Where nothing is met it is 1: so it may
be multiplied into the beauty as it stands.

Source: Pharr, Jakob & Humphreys 2023, A.5.3 cosine-weighted hemisphere [PharrJakobHumphreys2023].
"""

from __future__ import annotations

import numpy as np

from ...numeric.blocks import new_array
from ...numeric.jit import kernel
from ..model import Floats
from ..samples import STEP_X, STEP_Y, noise
from ..seen import Seen
from ..world import off_surface
from .base import Numbering, Pass

#: Where the rays end.
_SKY = np.float32(1e8)


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    shape = (*seen.shape, 3)
    begin, way = new_array(shape), new_array(shape)
    to_sky(seen.position, seen.normal, seen.rows[0], seen.seed, begin, way)
    rows = np.flatnonzero(seen.covered.reshape(-1))
    blocked = np.zeros(seen.covered.size, np.bool_)
    reach = np.full(len(rows), _SKY, np.float32)
    blocked[rows] = seen.world.blocked(begin.reshape(-1, 3)[rows], way.reshape(-1, 3)[rows], reach)
    return {"occlusion.Y": 1 - seen.share(blocked.reshape(seen.shape))}


@kernel
def to_sky(position, normal, first_row, seed, begin, way):  # type: ignore[no-untyped-def]
    """A ray of each sample; those of one pixel are spread evenly over the hemisphere."""
    for y in range(position.shape[0]):
        for x in range(position.shape[1]):
            u = noise(x, first_row + y, 2 * seed + 7919)
            v = noise(x, first_row + y, 2 * seed + 7920)
            for s in range(position.shape[2]):
                u, v = u + STEP_X, v + STEP_Y
                u, v = u - np.floor(u), v - np.floor(v)
                nx, ny, nz = normal[y, x, s, 0], normal[y, x, s, 1], normal[y, x, s, 2]
                # two ways square to the normal [Duff2017]
                side = np.float32(1) if nz >= 0 else np.float32(-1)
                a = np.float32(-1) / (side + nz)
                b = nx * ny * a
                flat, turn = np.float32(np.sqrt(u)), 2 * np.pi * v
                p, q = flat * np.float32(np.cos(turn)), flat * np.float32(np.sin(turn))
                up = np.float32(np.sqrt(max(1 - u, 0.0)))
                way[y, x, s, 0] = p * (1 + side * nx * nx * a) + q * b + up * nx
                way[y, x, s, 1] = p * side * b + q * (side + ny * ny * a) + up * ny
                way[y, x, s, 2] = -p * side * nx - q * ny + up * nz
                place = position[y, x, s]
                off = off_surface(place[0], place[1], place[2])
                for k in range(3):
                    begin[y, x, s, k] = place[k] + normal[y, x, s, k] * off


PASS = Pass("occlusion", "How much of an even sky a surface sees.", "data", True, "half", _fill)
