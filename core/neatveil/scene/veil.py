"""Surfaces that are partly not there: cut out by their alpha, or covering only a share of what is behind.

A sample either meets such a surface or goes on behind it, with the chance that its alpha says. So
every pass still sees one surface a sample, and coverages multiply as they should.

Source: Enderton, Sintorn, Shirley & Luebke 2010, stochastic transparency [Enderton2010].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..numeric.jit import kernel
from .model import Floats, Material
from .samples import noise
from .textures import looked_up
from .world import Hits, World, blend

#: Sheets that a ray goes through at most.
MOST = 64
#: How far behind a sheet the ray goes on, as a share of its length.
_BEHIND = np.float32(1e-5)


def is_veil(material: Material) -> bool:
    """Whether the material's alpha lets anything through."""
    partly = material.alpha < 1 or material.colour_texture is not None
    return (material.blended or material.cutout is not None) and partly


def pass_through(
    world: World, hits: Hits, origins: Floats, directions: Floats,
    shape: tuple[int, int, int], first_row: int, seed: int,
) -> None:  # fmt: skip
    """Move hits on veils behind them where their chance says so; ``hits`` are changed.

    ``shape`` is rows, width, samples of the flat arrays.
    """
    veils = np.array([is_veil(m) for m in world.materials])
    if not veils.any():
        return
    chance = np.empty(shape, np.float32)
    waiting = np.arange(len(hits.triangle))
    for sheet in range(MOST):
        waiting = waiting[hits.triangle[waiting] >= 0]
        material = world.part_material[world.part[hits.triangle[waiting]]]
        waiting = waiting[veils[material]]
        if not len(waiting):
            return
        fill_chances(chance, first_row, seed, sheet)
        waiting = waiting[chance.reshape(-1)[waiting] >= _alpha(world, hits, waiting)]
        _go_on(world, hits, origins, directions, waiting)


def _alpha(world: World, hits: Hits, rows: NDArray[np.int64]) -> Floats:
    """The share that each hit surface covers."""
    triangle = hits.triangle[rows]
    uv = np.empty((len(rows), 2), np.float32)
    blend(world.uv, world.corners, triangle, hits.u[rows], hits.v[rows], triangle >= 0, uv)
    which = world.part_material[world.part[triangle]]
    alpha = np.ones(len(rows), np.float32)
    for number in np.unique(which):
        material, here = world.materials[number], which == number
        if not is_veil(material):
            continue
        found = np.full(here.sum(), material.alpha, np.float32)
        if material.colour_texture:
            found *= looked_up(material.colour_texture, uv[here])[:, 3]
        alpha[here] = found if material.cutout is None else found >= material.cutout
    return alpha


def _go_on(world: World, hits: Hits, origins: Floats, directions: Floats, rows: NDArray[np.int64]) -> None:
    begun = hits.length[rows] * (1 + _BEHIND) + _BEHIND
    begin = origins[rows] + begun[:, None] * directions[rows]
    found = world.first_hits(begin, directions[rows])
    hits.length[rows] = found.length + begun
    hits.triangle[rows], hits.u[rows], hits.v[rows] = found.triangle, found.u, found.v


@kernel
def fill_chances(out, first_row, seed, sheet):  # type: ignore[no-untyped-def]
    """Numbers in 0..1, evenly spread over each pixel's samples, in another order for each sheet."""
    step = np.float64(0.6180339887498949) * (sheet + 1)
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            place = noise(x, first_row + y, 2 * seed + 1000003 * (sheet + 1))
            for s in range(out.shape[2]):
                place += step
                place -= np.floor(place)
                out[y, x, s] = place
