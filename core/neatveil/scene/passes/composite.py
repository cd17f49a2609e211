"""The true composite: the scene in front of the plate, traced as one picture, to score comps against.

Where nothing stands in front, the pixel of the plate is taken as it is; glass bends the plate as it
bends everything, and catchers darken it.
"""

from __future__ import annotations

import numpy as np

from ..lighting import behind, behind_ways
from ..model import Floats
from ..moment_samples import MomentSamples
from ..pixel_samples import PixelSamples
from ..plate import Plate
from .base import Pass, PassSettings, channels
from .caught import darkness


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    through = pixels.light(pixels.each(_glass))
    # uncovered samples take their own pixel of the plate, darkened where a shadow is caught
    free = 1 - pixels.share(pixels.covered)
    if pixels.world.stands_in:
        free = free - darkness(pixels)
    picture = pixels.beauty + through + _plate_of(pixels.moments[0]) * free[..., None]
    return channels("composite", "RGB", picture.astype(np.float32))


def _plate(samples: MomentSamples) -> Plate:
    assert samples.light.plate is not None  # asked for in film.render
    return samples.light.plate


def _glass(samples: MomentSamples) -> Floats:
    """What glass shows of the plate, ``(rows, width, samples, 3)``."""
    shows = np.where(samples.covered[..., None], behind(samples), 0)
    rows = np.flatnonzero(shows.reshape(-1, 3).any(axis=1))
    found = _plate(samples).behind(samples.moment.lens, behind_ways(samples)[rows])
    return samples.spread(found * shows.reshape(-1, 3)[rows], rows)


def _plate_of(samples: MomentSamples) -> Floats:
    """The plate at the pixels' centres."""
    grid, lens = samples.grid, samples.moment.lens
    row, column = np.mgrid[grid.y0 : grid.y1, grid.x0 : grid.x1] + 0.5
    across = (column / lens.width * 2 - 1) * lens.spread[0]
    down = (1 - row / lens.height * 2) * lens.spread[1]
    ways = np.stack([across, down, np.full_like(across, -1)], axis=-1) @ lens.place[:3, :3].T
    found = _plate(samples).behind(lens, ways.reshape(-1, 3).astype(np.float32))
    return found.reshape(*row.shape, 3)


PASS = Pass(
    name="composite",
    help="The scene in front of the plate, traced as one picture.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    needs="plate",
    coded="light",
    unit="light, BT.709 primaries",
)
