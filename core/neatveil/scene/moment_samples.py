"""What the rays of some pixels met at one moment: traced once, read by every pass."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..numeric.rows import spread_out, taken
from .bundle import Hits
from .illumination import Illumination
from .lens import Lens
from .model import Floats
from .motion import places_at
from .object_roles import CATCHER, SHOWN
from .samples import Grid, PixelFilter
from .surface import SurfaceHits
from .transparency import pass_through
from .world import World

Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class Later:
    """One frame later: what turns each part's points from now to then, ``(P, 4, 4)``, and the lens."""

    moves: NDArray[np.float64]
    lens: Lens

    @classmethod
    def of(cls, world: World, seconds: float, lens: Lens) -> Later:
        """From the world as it is to its scene at another moment."""
        then = places_at(world.scene, seconds)
        moves = [then[n] @ np.linalg.inv(world.places[n]) for n in world.part_node]
        return cls(np.stack(moves), lens)


@dataclass(frozen=True)
class Moment:
    """The scene and its camera at one moment, and where both are a frame later."""

    world: World
    lens: Lens
    later: Later | None = None


@dataclass(frozen=True)
class MomentSamples:
    """Samples of some pixels at one moment; shapes are ``(rows, width, samples)``, flat ones ``(N,)``.

    Attributes
    ----------
    offsets : where each sample lies, in pixels from its pixel's centre, ``(rows, width, samples, 2)``.
    directions, hits : flat, in the same order.
    """

    moment: Moment
    grid: Grid
    light: Illumination
    offsets: Floats
    directions: Floats
    hits: Hits
    #: What passes share, by name: made by the first that asks for it.
    shared: dict[str, Any] = field(default_factory=dict)

    @classmethod
    def through(
        cls, moment: Moment, grid: Grid, light: Illumination, pixel_filter: PixelFilter, alone: bool
    ) -> MomentSamples:
        """Trace the rays of some pixels; ``alone``: there are no other samples of them."""
        offsets = grid.offsets(pixel_filter, alone)
        lens, world = moment.lens, moment.world
        origins, directions = lens.rays(offsets, grid)
        hits = world.ahead.first_hits(origins, directions, lens.near)
        drawn: dict[int, Floats] = {}

        def chances(sheet: int, rows: NDArray[np.int64]) -> Floats:
            if sheet not in drawn:
                drawn[sheet] = grid.singles(sheet)
            return drawn[sheet][rows]

        pass_through(world, world.ahead, hits, origins, directions, chances)
        return cls(moment, grid, light, offsets, directions, hits)

    @property
    def world(self) -> World:
        return self.moment.world

    @property
    def shape(self) -> tuple[int, int, int]:
        return self.grid.shape

    @cached_property
    def part(self) -> NDArray[np.int32]:
        """Number of the part that was met and is shown; -1 elsewhere."""
        return self._part_of(SHOWN)

    @cached_property
    def catcher(self) -> Bools:
        """Whether the sample met a shadow catcher."""
        return self._part_of(CATCHER) >= 0

    def _part_of(self, role: int) -> NDArray[np.int32]:
        part = np.where(self._met, taken(self.world.part, self.hits.triangle), np.int32(-1))
        if self.world.part_role.any():
            part[self.world.part_role[part] != role] = -1
        elif role != SHOWN:
            part[:] = -1
        return part.reshape(self.shape)

    @cached_property
    def covered(self) -> Bools:
        """Whether the sample met anything that is shown, before the camera's far plane."""
        if not self.world.part_role.any():
            # nothing but what is shown: which part it is need not be known
            return self._met.reshape(self.shape)
        return self.part >= 0

    @cached_property
    def _met(self) -> Bools:
        met = self.hits.triangle >= 0
        if self.moment.lens.far is not None:
            met &= self.hits.length <= self.moment.lens.far
        return met

    @cached_property
    def rows(self) -> NDArray[np.int64]:
        """Flat numbers of the covered samples."""
        return np.flatnonzero(self.covered.reshape(-1))

    @cached_property
    def surface_hits(self) -> SurfaceHits:
        """The surfaces at the covered samples, in the order of `rows`."""
        return self.hits_at(self.rows)

    def hits_at(self, rows: NDArray[np.int64]) -> SurfaceHits:
        """The surfaces at flat samples, every one of which met something."""
        return SurfaceHits.of(self.world, self.hits.some(rows), taken(self.directions, rows))

    @cached_property
    def keys(self) -> NDArray[np.uint64]:
        """A number of each sample's own, flat; see `Grid.keys`."""
        return self.grid.keys()

    @cached_property
    def depth(self) -> Floats:
        """Distance along the camera's axis, in the scene's units; infinite where nothing was met."""
        return self.hits.length.reshape(self.shape)

    def spread(self, values: NDArray[Any], rows: NDArray[np.int64] | None = None) -> Floats:
        """Values at the covered samples, or at other rows, among all samples; 0 at the others."""
        whole = spread_out(values, self.rows if rows is None else rows, self.grid.size)
        return whole.reshape(*self.shape, *values.shape[1:])
