"""The true composite: the scene in front of the plate, traced as one picture, to score comps against.

Where nothing stands in front, the pixel of the plate is taken as it is; glass bends the plate as it
bends everything, and catchers darken it.
"""

from __future__ import annotations

import numpy as np

from ..lighting import behind, behind_ways
from ..model import Floats
from ..plate import Plate
from ..seen import Seen
from ..shot import Shot
from .base import Given, Pass, channels
from .caught import darkness


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    through = seen.light(seen.each(_glass))
    # uncovered samples take their own pixel of the plate, darkened where a shadow is caught
    free = 1 - seen.share(seen.covered)
    if seen.world.stands_in:
        free = free - darkness(seen)
    picture = seen.beauty + through + _plate_of(seen.shots[0]) * free[..., None]
    return channels("composite", "RGB", picture.astype(np.float32))


def _plate(shot: Shot) -> Plate:
    assert shot.light.plate is not None  # asked for in film.render
    return shot.light.plate


def _glass(shot: Shot) -> Floats:
    """What glass shows of the plate, ``(rows, width, samples, 3)``."""
    shows = np.where(shot.covered[..., None], behind(shot), 0)
    rows = np.flatnonzero(shows.reshape(-1, 3).any(axis=1))
    found = _plate(shot).behind(shot.moment.lens, behind_ways(shot)[rows])
    return shot.spread(found * shows.reshape(-1, 3)[rows], rows)


def _plate_of(shot: Shot) -> Floats:
    """The plate at the pixels' centres."""
    grid, lens = shot.grid, shot.moment.lens
    row, column = np.mgrid[grid.y0 : grid.y1, grid.x0 : grid.x1] + 0.5
    across = (column / lens.width * 2 - 1) * lens.spread[0]
    down = (1 - row / lens.height * 2) * lens.spread[1]
    ways = np.stack([across, down, np.full_like(across, -1)], axis=-1) @ lens.place[:3, :3].T
    found = _plate(shot).behind(lens, ways.reshape(-1, 3).astype(np.float32))
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
