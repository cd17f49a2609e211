"""Surfaces that are partly not there: cut out by their alpha, or covering only a share of what is behind.

A ray either meets such a surface or goes on behind it, with the chance that its alpha says. So
every pass still sees one surface a sample, and coverages multiply as they should.

Source: Enderton, Sintorn, Shirley & Luebke 2010, stochastic transparency [Enderton2010].
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from .bundle import Bundle, Hits, blend
from .model import Floats
from .textures import looked_up
from .world import World

#: Sheets that a ray goes through at most.
MOST = 64
#: How far behind a sheet the ray goes on, as a share of its length.
_BEHIND = np.float32(1e-5)

#: Numbers in 0..1 by the sheet's number, for the given rays.
Chances = Callable[[int, NDArray[np.int64]], Floats]


def pass_through(
    world: World, bundle: Bundle, hits: Hits, origins: Floats, directions: Floats, chances: Chances
) -> None:
    """Move hits on veils behind them where their chance says so; ``hits`` are changed."""
    veils = np.array([m.veil for m in world.materials])
    if not veils.any():
        return
    waiting = np.arange(len(hits.triangle))
    for sheet in range(MOST):
        waiting = waiting[hits.triangle[waiting] >= 0]
        material = world.part_material[world.part[hits.triangle[waiting]]]
        waiting = waiting[veils[material]]
        if not len(waiting):
            return
        here = Hits(hits.length[waiting], hits.triangle[waiting], hits.u[waiting], hits.v[waiting])
        waiting = waiting[chances(sheet, waiting) >= alpha_of(world, here)]
        _go_on(bundle, hits, origins, directions, waiting)


def alpha_of(world: World, hits: Hits) -> Floats:
    """The share that each hit surface covers, ``(N,)``."""
    uv = np.empty((len(hits.triangle), 2), np.float32)
    blend(world.uv, world.corners, hits.triangle, hits.u, hits.v, uv)
    which = world.part_material[world.part[hits.triangle]]
    alpha = np.ones(len(which), np.float32)
    for number in np.unique(which):
        material, here = world.materials[number], which == number
        if not material.veil:
            continue
        found = np.full(here.sum(), material.alpha, np.float32)
        if material.colour_texture:
            found *= looked_up(material.colour_texture, uv[here])[:, 3]
        alpha[here] = found if material.cutout is None else found >= material.cutout
    return alpha


def _go_on(bundle: Bundle, hits: Hits, origins: Floats, directions: Floats, rows: NDArray[np.int64]) -> None:
    begun = hits.length[rows] * (1 + _BEHIND) + _BEHIND
    begin = origins[rows] + begun[:, None] * directions[rows]
    found = bundle.first_hits(begin, directions[rows])
    hits.length[rows] = found.length + begun
    hits.triangle[rows], hits.u[rows], hits.v[rows] = found.triangle, found.u, found.v
