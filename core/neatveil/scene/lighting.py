"""The light of every sample, apart by how it came: it adds up to the beauty."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..numeric.rows import add_rows, taken
from .lamps import lit_by_lamps
from .lobes import DIFFUSE, MIRROR, THROUGH
from .model import Floats
from .paths import Brought, follow, onward
from .samples import hashed
from .shot import Shot
from .surface import Met

#: Salts of the numbers by which each lobe is sampled.
_SALT = {DIFFUSE: 11, MIRROR: 12, THROUGH: 13}


@dataclass(frozen=True)
class Lit:
    """Light to the camera, ``(rows, width, samples, 3)``; 0 where nothing was met.

    Attributes
    ----------
    environment : the sky, where the camera sees it.
    open : the lamps' diffuse light as if nothing threw shadows; ``shaded``: with shadows.
    """

    diffuse: Floats
    reflection: Floats
    transmission: Floats
    emission: Floats
    environment: Floats
    open: Floats
    shaded: Floats

    @property
    def beauty(self) -> Floats:
        """The sum of the lighting passes, by definition."""
        return self.diffuse + self.reflection + self.transmission + self.emission + self.environment


def lit(shot: Shot) -> Lit:
    """The light of a shot; traced for the first pass that asks, kept for the others."""
    if "lit" not in shot.shared:
        shot.shared["lit"] = _light(shot)
    found: Lit = shot.shared["lit"]
    return found


def _light(shot: Shot) -> Lit:
    met, way, light = shot.met, taken(shot.directions, shot.rows), shot.light
    if light.lamps:
        shaded, mirrored, whole = lit_by_lamps(shot.world, met, way)
    else:
        shaded, mirrored, whole = (np.zeros_like(met.emission) for _ in range(3))
    diffuse = shaded.copy()
    if light.followed:
        _follow_lobes(shot, met, way, diffuse, mirrored)
    glass = through_glass(shot, dark=False)
    environment = np.zeros((*shot.shape, 3), np.float32)
    if light.sky is not None and light.sky_seen:
        environment = behind(shot) * light.sky.light(behind_ways(shot)).reshape(environment.shape)
    return Lit(
        shot.spread(diffuse), shot.spread(mirrored), shot.spread(glass.light, glass.rows),
        shot.spread(met.emission), environment, shot.spread(whole), shot.spread(shaded),
    )  # fmt: skip


def _follow_lobes(shot: Shot, met: Met, way: Floats, diffuse: Floats, mirrored: Floats) -> None:
    """Add what surfaces and sky send to the first surfaces: scattered, and mirrored."""
    keys = taken(shot.keys, shot.rows)
    matt = (1 - met.metallic) * (1 - met.transmission) * met.colour.max(axis=1)
    _follow(shot, met, way, keys, DIFFUSE, (matt > 0).astype(np.float32), diffuse)
    fresnel = met.mirrored(way)
    # weak mirrors are followed by lot
    often = np.minimum(1, met.metallic + met.transmission + 4 * fresnel)
    _follow(shot, met, way, keys, MIRROR, np.where(fresnel + met.metallic > 0, often, 0), mirrored)


def _follow(
    shot: Shot, met: Met, way: Floats, keys: NDArray[np.uint64], lobe: int, often: Floats, total: Floats
) -> None:
    """Follow one lobe of the surfaces as often as it is said, and add what it brings."""
    here = np.flatnonzero(hashed(keys, 90 + lobe) < often)
    if not len(here):
        return
    all_of_them = len(here) == len(keys)
    some = met if all_of_them else met.some(here)
    pairs = taken(shot.grid.pairs(_SALT[lobe]), shot.rows[here])
    further = onward(some, taken(way, here), lobe, hashed(keys[here], 80), pairs)
    brought = follow(
        shot.world, shot.light, further.begin, further.way, keys[here] + np.uint64(lobe), clear=False
    )
    brought.light[:] *= further.weight
    brought.light[:] /= often[here, None]
    add_rows(total, here, brought.light)


@dataclass(frozen=True)
class Glass:
    """What comes through glass, at the samples ``rows``: light and the share of what is behind, by colour."""

    rows: NDArray[np.int64]
    light: Floats
    through: Floats
    way: Floats


def through_glass(shot: Shot, *, dark: bool) -> Glass:
    """Follow rays through see-through surfaces; ``dark``: for what shows through alone.

    What shows through does not depend on whether light is asked for.
    """
    kept: Glass | None = shot.shared.get("glass") or (shot.shared.get("dark glass") if dark else None)
    if kept is None:
        kept = shot.shared["dark glass" if dark else "glass"] = _through_glass(shot, dark)
    return kept


def _through_glass(shot: Shot, dark: bool) -> Glass:
    none = np.zeros((0, 3), np.float32)
    if not shot.world.glassy.any() or (dark and not shot.light.clear_glass):
        return Glass(np.zeros(0, np.int64), none, none, none)
    material = shot.world.part_material[shot.world.part[shot.hits.triangle[shot.rows]]]
    here = np.flatnonzero(shot.world.glassy[material])
    met, way = shot.met.some(here), shot.directions[shot.rows[here]]
    keys = shot.keys[shot.rows[here]]
    pairs = shot.grid.pairs(_SALT[THROUGH])[shot.rows[here]]
    further = onward(met, way, THROUGH, hashed(keys, 80), pairs)
    brought: Brought = follow(
        shot.world, shot.light, further.begin, further.way, keys + np.uint64(THROUGH), clear=True, dark=dark
    )
    return Glass(
        shot.rows[here], brought.light * further.weight, brought.through * further.weight, brought.way
    )


def behind(shot: Shot) -> Floats:
    """The share of what lies behind the scene that each sample shows, ``(rows, width, samples, 3)``."""
    glass = through_glass(shot, dark=True)
    shows = np.repeat((~shot.covered)[..., None], 3, axis=3).astype(np.float32)
    shows.reshape(-1, 3)[glass.rows] = glass.through
    return shows


def behind_ways(shot: Shot) -> Floats:
    """``(N, 3)``: the ways by which it is seen."""
    glass = through_glass(shot, dark=True)
    if not len(glass.rows):
        return shot.directions
    ways = shot.directions.copy()
    ways[glass.rows] = glass.way
    return ways
