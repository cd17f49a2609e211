"""What one strip of the frame's rays met: traced once, read by every pass."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from .lens import Lens
from .model import Floats
from .motion import places_at
from .samples import PixelFilter, sample_offsets
from .veil import pass_through
from .world import Hits, World, blend

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
class Seen:
    """Samples of rows ``y0`` to ``y1``; shapes are ``(rows, width, samples)``.

    Attributes
    ----------
    offsets : where each sample lies, in pixels from its pixel's centre, ``(rows, width, samples, 2)``.
    hits : flat, in the same order.
    seed : of everything that is drawn by lot.
    later : where things are one frame later, for passes that ask how they move.
    """

    world: World
    lens: Lens
    rows: tuple[int, int]
    offsets: Floats
    directions: Floats
    hits: Hits
    later: Later | None = None
    seed: int = 0
    #: What passes share, by name: made by the first that asks for it.
    shared: dict[str, Any] = field(default_factory=dict)

    @classmethod
    def through(
        cls, world: World, lens: Lens, rows: tuple[int, int], samples: int,
        pixel_filter: PixelFilter = "box", seed: int = 0, later: Later | None = None,
    ) -> Seen:  # fmt: skip
        """Trace the rays of some rows."""
        offsets = sample_offsets(lens.width, rows, samples, pixel_filter, seed)
        origins, directions = lens.rays(offsets, rows[0])
        hits = world.first_hits(origins, directions, lens.near)
        pass_through(world, hits, origins, directions, offsets.shape[:3], rows[0], seed)
        return cls(world, lens, rows, offsets, directions, hits, later, seed)

    @property
    def shape(self) -> tuple[int, int, int]:
        rows, width, samples, _ = self.offsets.shape
        return rows, width, samples

    @cached_property
    def covered(self) -> Bools:
        """Whether the sample met anything before the camera's far plane."""
        met = self.hits.triangle >= 0
        if self.lens.far is not None:
            met &= self.hits.length <= self.lens.far
        return met.reshape(self.shape)

    @cached_property
    def depth(self) -> Floats:
        """Distance along the camera's axis, in the scene's units; infinite where nothing was met."""
        return self.hits.length.reshape(self.shape)

    @cached_property
    def part(self) -> NDArray[np.int32]:
        """Number of the part that was met; -1 where nothing was."""
        part = np.where(self.covered.reshape(-1), self.world.part[self.hits.triangle], -1)
        return part.astype(np.int32).reshape(self.shape)

    @cached_property
    def position(self) -> Floats:
        """World position, ``(..., 3)``; 0 where nothing was met."""
        return self._blended(self.world.positions)

    @cached_property
    def normal(self) -> Floats:
        """World normal of length 1, turned towards the camera, ``(..., 3)``."""
        normal = self._blended(self.world.normals)
        face(normal.reshape(-1, 3), self.directions)
        return normal

    @cached_property
    def uv(self) -> Floats:
        """``(..., 2)``: u to the right, v down the picture; 0 where nothing was met."""
        return self._blended(self.world.uv)

    def _blended(self, values: Floats) -> Floats:
        """Values of the vertices, blended over the triangle by the hit's weights."""
        hits, width = self.hits, values.shape[1]
        out = new_array((len(hits.triangle), width))
        blend(values, self.world.corners, hits.triangle, hits.u, hits.v, self.covered.reshape(-1), out)
        return out.reshape(*self.shape, width)

    # --- from samples to pixels ----------------------------------------------------------------

    def share(self, which: Bools) -> Floats:
        """The share of each pixel's samples, ``(rows, width)``."""
        rows, width, samples = self.shape
        out = new_array((rows, width))
        count_share(which.reshape(-1, samples), out.reshape(-1))
        return out

    def light(self, values: Floats) -> Floats:
        """Light of the samples as the pixel's: premultiplied, for what is not covered gives none."""
        rows, width, samples = self.shape
        out = new_array((rows, width, 3))
        sum_light(values.reshape(-1, samples, 3), out.reshape(-1, 3))
        return out

    def mean(self, values: Floats) -> Floats:
        """The mean of ``(rows, width, samples)`` over the covered samples; 0 where none is."""
        rows, width, samples = self.shape
        out = new_array((rows, width))
        mean_covered(values.reshape(-1, samples), self.covered.reshape(-1, samples), out.reshape(-1))
        return out

    def one(self, values: Floats, empty: float = 0.0) -> Floats:
        """The value of one sample, never mixed: the covered one nearest to the pixel's centre."""
        index = self._nearest[(..., *([None] * (values.ndim - 2)))]
        chosen = np.take_along_axis(values, index, axis=2)[:, :, 0]
        some = np.take_along_axis(self.covered, self._nearest[..., None], axis=2)
        return np.where(some[..., 0] if values.ndim == 3 else some, chosen, np.float32(empty)).astype(
            np.float32
        )

    @cached_property
    def _nearest(self) -> NDArray[np.int64]:
        rows, width, samples = self.shape
        nearest = np.empty((rows, width), np.int64)
        find_nearest(
            self.offsets.reshape(-1, samples, 2), self.covered.reshape(-1, samples), nearest.reshape(-1)
        )
        return nearest


@kernel
def face(normal, directions):  # type: ignore[no-untyped-def]
    """Length 1, and towards the camera, in place; 0 stays."""
    for i in range(normal.shape[0]):
        x, y, z = normal[i, 0], normal[i, 1], normal[i, 2]
        length = np.sqrt(x * x + y * y + z * z)
        if length > 0:
            away = x * directions[i, 0] + y * directions[i, 1] + z * directions[i, 2] > 0
            scale = np.float32(-1 if away else 1) / length
            normal[i, 0], normal[i, 1], normal[i, 2] = x * scale, y * scale, z * scale


@kernel
def count_share(which, out):  # type: ignore[no-untyped-def]
    for p in range(which.shape[0]):
        count = 0
        for s in range(which.shape[1]):
            count += which[p, s]
        out[p] = np.float32(count) / np.float32(which.shape[1])


@kernel
def sum_light(values, out):  # type: ignore[no-untyped-def]
    for p in range(values.shape[0]):
        for k in range(3):
            total = np.float64(0)
            for s in range(values.shape[1]):
                total += values[p, s, k]
            out[p, k] = total / values.shape[1]


@kernel
def mean_covered(values, covered, out):  # type: ignore[no-untyped-def]
    for p in range(values.shape[0]):
        total, count = np.float64(0), 0
        for s in range(values.shape[1]):
            if covered[p, s]:
                total += values[p, s]
                count += 1
        out[p] = total / max(count, 1)


@kernel
def find_nearest(offsets, covered, nearest):  # type: ignore[no-untyped-def]
    """The covered sample nearest to the pixel's centre; the first where none is covered."""
    for p in range(covered.shape[0]):
        least, best = np.float32(np.inf), 0
        for s in range(covered.shape[1]):
            far = offsets[p, s, 0] ** 2 + offsets[p, s, 1] ** 2
            if covered[p, s] and far < least:
                least, best = far, s
        nearest[p] = best
