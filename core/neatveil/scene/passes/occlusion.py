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
from ..bundle import off_surface
from ..lobes import square_to
from ..model import Floats
from ..moment_samples import Bools, MomentSamples
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings

#: Where the rays end, and the salt of the numbers that say where they go.
_SKY, _SALT = np.float32(1e8), 1


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return {"occlusion.Y": np.float32(1) - pixels.share(pixels.each(_blocked))}


def _blocked(samples: MomentSamples) -> Bools:
    rows, surfaces = samples.rows, samples.surface_hits
    begin, way = new_array((len(rows), 3)), new_array((len(rows), 3))
    to_sky(surfaces.position, surfaces.normal, samples.grid.pairs(_SALT)[rows], begin, way)
    reach = np.full(len(rows), _SKY, np.float32)
    return samples.spread(samples.world.everything.blocked(begin, way, reach)) > 0


@kernel
def to_sky(position, normal, pairs, begin, way):  # type: ignore[no-untyped-def]
    for i in range(pairs.shape[0]):
        nx, ny, nz = normal[i, 0], normal[i, 1], normal[i, 2]
        tx, ty, tz, bx, by, bz = square_to(nx, ny, nz)
        flat, turn = np.sqrt(pairs[i, 0]), np.float32(2 * np.pi) * pairs[i, 1]
        p, q = flat * np.cos(turn), flat * np.sin(turn)
        up = np.sqrt(max(np.float32(1) - pairs[i, 0], np.float32(0)))
        way[i, 0] = p * tx + q * bx + up * nx
        way[i, 1] = p * ty + q * by + up * ny
        way[i, 2] = p * tz + q * bz + up * nz
        off = off_surface(position[i, 0], position[i, 1], position[i, 2])
        for k in range(3):
            begin[i, k] = position[i, k] + normal[i, k] * off


PASS = Pass(
    name="occlusion",
    help="How much of an even sky a surface sees.",
    kind="data",
    filtered=True,
    sample="half",
    fill=_fill,
    unit="share, 1 sees all of it",
)
