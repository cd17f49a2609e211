"""Shadows: how much of a light's colour comes through what stands in its way.

Shadow rays go straight through see-through surfaces, each of which takes its share: glass is not
bent here, so that a light behind it still reaches every place.
"""

from __future__ import annotations

import numpy as np

from ..numeric.blocks import new_array
from .bundle import Bundle, Hits
from .model import Floats
from .surface import SurfaceHits
from .transparency import alpha_of
from .world import World

#: Surfaces that a shadow ray goes through at most, and how far behind one it goes on, by its length.
MOST, _BEHIND = 32, np.float32(1e-4)


def shade_of(world: World) -> Shade:
    """What stands between a place and a light."""
    return Shade(world, *world.by_light)


def shade_of_shown(world: World) -> Shade:
    """The same of what is shown, and of what is counted."""
    return Shade(world, *world.shown_by_light)


def shade_of_counted(world: World) -> Shade | None:
    """The same of what other render layers catch the shadows of; None where there are none."""
    return Shade(world, *world.counted_by_light) if world.part_counted.any() else None


class Shade:
    """Some parts, apart by whether any light comes through them."""

    def __init__(self, world: World, solid: Bundle, sheer: Bundle) -> None:
        self._world, self._solid, self._sheer = world, solid, sheer

    def passing(self, origins: Floats, directions: Floats, lengths: Floats) -> Floats:
        """``(N, 3)``: what is left of R, G and B at the far end of ``(N, 3)`` rays; 0 in full shadow."""
        left = new_array((len(origins), 3))
        left[:] = ~self._solid.blocked(origins, directions, lengths)[:, None]
        if self._sheer.empty:
            return left
        waiting = np.flatnonzero(left[:, 0])
        begun = np.zeros(len(origins), np.float32)
        for _ in range(MOST):
            way = directions[waiting]
            hits = self._sheer.first_hits(origins[waiting] + begun[waiting, None] * way, way)
            met = hits.length < lengths[waiting] - begun[waiting]
            waiting, way = waiting[met], way[met]
            if not len(waiting):
                break
            hits = hits.some(np.flatnonzero(met))
            left[waiting] *= self._left_by(hits, way)
            begun[waiting] += hits.length * (1 + _BEHIND) + _BEHIND
            waiting = waiting[left[waiting].max(axis=1) > 1e-3]
        return left

    def _left_by(self, hits: Hits, way: Floats) -> Floats:
        met = SurfaceHits.of(self._world, hits, way)
        clear = (1 - alpha_of(self._world, hits))[:, None]
        return clear + (1 - clear) * met.straight_through(way)
