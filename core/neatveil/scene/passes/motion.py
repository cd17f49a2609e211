"""Motion: how far each point moves in the picture until the next frame, in pixels, x right, y down."""

from __future__ import annotations

import numpy as np

from ...numeric.blocks import new_array
from ...numeric.jit import kernel
from ..model import Floats
from ..moment_samples import MomentSamples
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def way_of(pixels: PixelSamples) -> Floats:
    """``(rows, width, 2)`` pixels a frame, of one sample; 0 where nothing is."""
    return pixels.one(pixels.each(_way))


def _way(samples: MomentSamples) -> Floats:
    later = samples.moment.later
    assert later is not None  # asked for in film.render
    way = new_array((len(samples.rows), 2))
    now, then = samples.moment.lens.matrix, later.lens.matrix @ later.moves
    move(samples.surface_hits.position, samples.surface_hits.part, now, then, way)
    return samples.spread(way)


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return channels("motion", "XY", way_of(pixels))


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
