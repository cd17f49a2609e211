"""The light of every sample, apart by how it came: it adds up to the beauty."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..numeric.rows import add_rows, taken
from .lamps import lit_by_lamps
from .lobes import DIFFUSE, MIRROR, THROUGH
from .model import Floats
from .moment_samples import MomentSamples
from .paths import Brought, follow, onward
from .samples import hashed
from .surface import SurfaceHits

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


def lit(samples: MomentSamples) -> Lit:
    """The light of a shot; traced for the first pass that asks, kept for the others."""
    if "lit" not in samples.shared:
        samples.shared["lit"] = _light(samples)
    found: Lit = samples.shared["lit"]
    return found


def _light(samples: MomentSamples) -> Lit:
    surfaces, way, light = samples.surface_hits, taken(samples.directions, samples.rows), samples.light
    if light.lamps:
        shaded, mirrored, whole = lit_by_lamps(samples.world, surfaces, way)
    else:
        shaded, mirrored, whole = (np.zeros_like(surfaces.emission) for _ in range(3))
    diffuse = shaded.copy()
    if light.followed:
        _follow_lobes(samples, surfaces, way, diffuse, mirrored)
    glass = through_glass(samples, dark=False)
    environment = np.zeros((*samples.shape, 3), np.float32)
    if light.sky is not None and light.sky_seen:
        environment = behind(samples) * light.sky.light(behind_ways(samples)).reshape(environment.shape)
    return Lit(
        samples.spread(diffuse), samples.spread(mirrored), samples.spread(glass.light, glass.rows),
        samples.spread(surfaces.emission), environment, samples.spread(whole), samples.spread(shaded),
    )  # fmt: skip


def _follow_lobes(
    samples: MomentSamples, surfaces: SurfaceHits, way: Floats, diffuse: Floats, mirrored: Floats
) -> None:
    """Add what surfaces and sky send to the first surfaces: scattered, and mirrored."""
    keys = taken(samples.keys, samples.rows)
    matt = (1 - surfaces.metallic) * (1 - surfaces.transmission) * surfaces.colour.max(axis=1)
    _follow(samples, surfaces, way, keys, DIFFUSE, (matt > 0).astype(np.float32), diffuse)
    fresnel = surfaces.mirrored(way)
    # weak mirrors are followed by lot
    often = np.minimum(1, surfaces.metallic + surfaces.transmission + 4 * fresnel)
    _follow(
        samples, surfaces, way, keys, MIRROR, np.where(fresnel + surfaces.metallic > 0, often, 0), mirrored
    )


def _follow(
    samples: MomentSamples,
    surfaces: SurfaceHits,
    way: Floats,
    keys: NDArray[np.uint64],
    lobe: int,
    often: Floats,
    total: Floats,
) -> None:
    """Follow one lobe of the surfaces as often as it is said, and add what it brings."""
    here = np.flatnonzero(hashed(keys, 90 + lobe) < often)
    if not len(here):
        return
    all_of_them = len(here) == len(keys)
    some = surfaces if all_of_them else surfaces.some(here)
    pairs = taken(samples.grid.pairs(_SALT[lobe]), samples.rows[here])
    further = onward(some, taken(way, here), lobe, hashed(keys[here], 80), pairs)
    brought = follow(
        samples.world, samples.light, further.begin, further.way, keys[here] + np.uint64(lobe), clear=False
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


def through_glass(samples: MomentSamples, *, dark: bool) -> Glass:
    """Follow rays through see-through surfaces; ``dark``: for what shows through alone.

    What shows through does not depend on whether light is asked for.
    """
    kept: Glass | None = samples.shared.get("glass") or (samples.shared.get("dark glass") if dark else None)
    if kept is None:
        kept = samples.shared["dark glass" if dark else "glass"] = _through_glass(samples, dark)
    return kept


def _through_glass(samples: MomentSamples, dark: bool) -> Glass:
    none = np.zeros((0, 3), np.float32)
    if not samples.world.glassy.any() or (dark and not samples.light.clear_glass):
        return Glass(np.zeros(0, np.int64), none, none, none)
    material = samples.world.part_material[samples.world.part[samples.hits.triangle[samples.rows]]]
    here = np.flatnonzero(samples.world.glassy[material])
    surfaces, way = samples.surface_hits.some(here), samples.directions[samples.rows[here]]
    keys = samples.keys[samples.rows[here]]
    pairs = samples.grid.pairs(_SALT[THROUGH])[samples.rows[here]]
    further = onward(surfaces, way, THROUGH, hashed(keys, 80), pairs)
    brought: Brought = follow(
        samples.world,
        samples.light,
        further.begin,
        further.way,
        keys + np.uint64(THROUGH),
        clear=True,
        dark=dark,
    )
    return Glass(
        samples.rows[here], brought.light * further.weight, brought.through * further.weight, brought.way
    )


def behind(samples: MomentSamples) -> Floats:
    """The share of what lies behind the scene that each sample shows, ``(rows, width, samples, 3)``."""
    glass = through_glass(samples, dark=True)
    shows = np.repeat((~samples.covered)[..., None], 3, axis=3).astype(np.float32)
    shows.reshape(-1, 3)[glass.rows] = glass.through
    return shows


def behind_ways(samples: MomentSamples) -> Floats:
    """``(N, 3)``: the ways by which it is seen."""
    glass = through_glass(samples, dark=True)
    if not len(glass.rows):
        return samples.directions
    ways = samples.directions.copy()
    ways[glass.rows] = glass.way
    return ways
