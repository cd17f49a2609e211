"""Light along rays: what they meet, what that meets in turn, until nothing is left or all is lost.

A ray that has only gone through glass so far may leave the scene: what lies behind then shows
through, and the alpha tells how much. All others that leave it meet the sky.

Source: Pharr, Jakob & Humphreys 2023, 13.2 path tracing [PharrJakobHumphreys2023].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from .bundle import Hits
from .illumination import Illumination
from .lamps import lit_by_lamps
from .lobes import ANY, THROUGH, go_on
from .model import Floats
from .object_roles import CATCHER, HELD
from .samples import hashed
from .surface import SurfaceHits
from .transparency import Chances, pass_through
from .world import World

Keys = NDArray[np.uint64]
#: Surfaces that a ray goes through in a row at most.
MOST = 24


@dataclass(frozen=True)
class Onward:
    """Rays that leave surfaces: ``(N, 3)`` begin, way and weight by colour, and ``(N,)`` lobe they took."""

    begin: Floats
    way: Floats
    weight: Floats
    took: NDArray[np.int8]


@dataclass(frozen=True)
class Brought:
    """What rays bring back.

    Attributes
    ----------
    light : ``(N, 3)``
    through : ``(N, 3)`` the share of what lies behind the scene that shows through; 0 where none does.
    way : ``(N, 3)`` by which it is seen.
    """

    light: Floats
    through: Floats
    way: Floats


def onward(met: SurfaceHits, directions: Floats, lobe: int, chance: Floats, pairs: Floats) -> Onward:
    """One way on from each surface; ``lobe`` is one of those of `lobes`."""
    count = len(met.position)
    lobes = np.full(count, lobe, np.int8)
    return _onward(met, directions, lobes, chance, pairs)


def _onward(
    met: SurfaceHits, directions: Floats, lobes: NDArray[np.int8], chance: Floats, pairs: Floats
) -> Onward:
    count = len(met.position)
    begin, way, weight = (new_array((count, 3)) for _ in range(3))
    took = np.empty(count, np.int8)
    go_on(
        lobes, chance, pairs, directions, met.position, met.normal, met.front, met.colour, met.metallic,
        met.roughness, met.ior, met.transmission, met.solid, begin, way, weight, took,
    )  # fmt: skip
    return Onward(begin, way, weight, took)


def follow(
    world: World, light: Illumination, begin: Floats, way: Floats, keys: Keys,
    *, clear: bool, dark: bool = False,
) -> Brought:  # fmt: skip
    """What rays bring back, each with a weight of 1.

    ``clear`` rays have only gone through glass; ``dark`` asks for no light, only for what shows through.
    """
    count = len(begin)
    brought = Brought(*(new_array((count, 3), zero=True) for _ in range(3)))
    rows, weight = np.arange(count), np.ones((count, 3), np.float32)
    pure = np.full(count, clear)
    age = np.zeros(count, np.int32)
    for step in range(MOST):
        chances = hashed(keys[rows], 4 * step)
        hits = world.everything.first_hits(begin, way)
        pass_through(world, world.everything, hits, begin, way, _chances(keys[rows], step))
        gone = _leave(world, light, brought, hits, rows, way, weight, pure)
        kept = ~gone
        rows, weight, pure, age, way = rows[kept], weight[kept], pure[kept], age[kept], way[kept]
        if not len(rows):
            break
        hits = hits.some(np.flatnonzero(kept))
        met = SurfaceHits.of(world, hits, way)
        _dim(world, met, hits, weight)
        if not dark:
            _gather(world, light, brought, met, way, rows, weight, pure)
        # a clear ray goes on through glass; every other by lot
        lobes = np.where(pure & (met.transmission > 0) & (met.metallic < 1), THROUGH, ANY).astype(np.int8)
        pairs = np.stack([hashed(keys[rows], 4 * step + 1), hashed(keys[rows], 4 * step + 2)], axis=1)
        further = _onward(met, way, lobes, chances[kept], pairs)
        fresh = pure & (lobes != THROUGH)
        pure &= ~fresh
        age += ~pure
        weight *= further.weight
        goes_on = (age <= light.bounces) & (light.indirect | fresh) & (light.followed and not dark)
        alive = (weight.max(axis=1) > 1e-4) & (pure | goes_on)
        rows, weight, pure, age = rows[alive], weight[alive], pure[alive], age[alive]
        begin, way = further.begin[alive], further.way[alive]
        if not len(rows):
            break
    return brought


def _chances(keys: Keys, step: int) -> Chances:
    return lambda sheet, which: hashed(keys[which], 1000 * step + sheet + 500)


def _leave(
    world: World, light: Illumination, brought: Brought, hits: Hits, rows: NDArray[np.int64], way: Floats,
    weight: Floats, pure: NDArray[np.bool_],
) -> NDArray[np.bool_]:  # fmt: skip
    """Rays that end behind the scene: into the plate's place, or into the sky."""
    gone = hits.triangle < 0
    # what stands in for things of the plate is as good as the plate
    behind = gone
    if world.stands_in:
        role = world.part_role[world.part[hits.triangle]]
        behind = gone | (role == HELD) | (role == CATCHER)
    shows = pure & behind & light.clear_glass
    brought.through[rows[shows]] = weight[shows]
    brought.way[rows[shows]] = way[shows]
    sky = light.shining_sky
    lost = gone & ~shows
    if sky is not None and lost.any():
        arrived = weight[lost] * sky.light(way[lost])
        _add(brought.light, rows[lost], arrived, pure[lost], light.most)
    return gone | shows


def _gather(
    world: World, light: Illumination, brought: Brought, met: SurfaceHits, way: Floats,
    rows: NDArray[np.int64], weight: Floats, pure: NDArray[np.bool_],
) -> None:  # fmt: skip
    """Add what the met surfaces send along the rays by themselves: their glow, and the lamps' light."""
    sent = met.emission
    if light.lamps:
        diffuse, mirrored, _ = lit_by_lamps(world, met, way)
        sent = sent + diffuse + mirrored
    arrived = weight * sent
    if not light.indirect:
        arrived[~pure] = 0
    _add(brought.light, rows, arrived, pure, light.most)


def _add(
    total: Floats, rows: NDArray[np.int64], arrived: Floats, sure: NDArray[np.bool_], most: float
) -> None:
    """Add light, no ray of chance more than ``most``."""
    peak = arrived.max(axis=1)
    scale = np.where((peak > most) & ~sure, most / np.maximum(peak, 1e-9), 1).astype(np.float32)
    total[rows] += arrived * scale[:, None]


def _dim(world: World, met: SurfaceHits, hits: Hits, weight: Floats) -> None:
    """What bodies leave of light on its way inside them (Beer and Lambert's law)."""
    for number, material in enumerate(world.materials):
        if not np.isfinite(material.dimmed_over) or material.dimmed_over <= 0:
            continue
        inside = np.flatnonzero((world.part_material[met.part] == number) & ~met.front & met.solid)
        if len(inside):
            share = hits.length[inside, None] / np.float32(material.dimmed_over)
            weight[inside] *= np.array(material.dimmed, np.float32) ** share
