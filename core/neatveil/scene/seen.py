"""What one strip of the frame's rays met: traced once, read by every pass."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .lens import Lens
from .model import Floats
from .samples import PixelFilter, sample_offsets
from .world import Hits, World

Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class Seen:
    """Samples of rows ``y0`` to ``y1``; shapes are ``(rows, width, samples)``.

    Attributes
    ----------
    offsets : where each sample lies, in pixels from its pixel's centre, ``(rows, width, samples, 2)``.
    hits : flat, in the same order.
    """

    world: World
    lens: Lens
    rows: tuple[int, int]
    offsets: Floats
    directions: Floats
    hits: Hits
    #: What passes share, by name: made by the first that asks for it.
    shared: dict[str, Any] = field(default_factory=dict)

    @classmethod
    def through(
        cls, world: World, lens: Lens, rows: tuple[int, int], samples: int,
        pixel_filter: PixelFilter = "box", seed: int = 0,
    ) -> Seen:  # fmt: skip
        """Trace the rays of some rows."""
        offsets = sample_offsets(lens.width, rows, samples, pixel_filter, seed)
        origins, directions = lens.rays(offsets, rows[0])
        return cls(world, lens, rows, offsets, directions, world.first_hits(origins, directions, lens.near))

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
        blended = self._blended(self.world.normals)
        length = np.linalg.norm(blended, axis=-1, keepdims=True)
        normal = blended / np.where(length > 0, length, 1)
        away = (normal * self.directions.reshape(*self.shape, 3)).sum(axis=-1, keepdims=True) > 0
        return np.where(away, -normal, normal).astype(np.float32)

    @cached_property
    def uv(self) -> Floats:
        """``(..., 2)``: u to the right, v down the picture; 0 where nothing was met."""
        return self._blended(self.world.uv)

    def _blended(self, values: Floats) -> Floats:
        """Values of the vertices, blended over the triangle by the hit's weights."""
        hits = self.hits
        corners = self.world.corners[hits.triangle]
        u, v = hits.u[:, None], hits.v[:, None]
        mixed = values[corners[:, 0]] * (1 - u - v) + values[corners[:, 1]] * u + values[corners[:, 2]] * v
        mixed[~self.covered.reshape(-1)] = 0
        blended: Floats = mixed.reshape(*self.shape, values.shape[1]).astype(np.float32)
        return blended

    # --- from samples to pixels ----------------------------------------------------------------

    def share(self, which: Bools) -> Floats:
        """The share of each pixel's samples, ``(rows, width)``."""
        share: Floats = which.mean(axis=2, dtype=np.float32)
        return share

    def light(self, values: Floats) -> Floats:
        """Light of the samples as the pixel's: premultiplied, for what is not covered gives none."""
        total = values.sum(axis=2, dtype=np.float64) / self.shape[2]
        light: Floats = total.astype(np.float32)
        return light

    def mean(self, values: Floats) -> Floats:
        """The mean over the covered samples of each pixel; 0 where none is."""
        which = self.covered.reshape(*self.shape, *([1] * (values.ndim - 3)))
        total = np.where(which, values, 0).sum(axis=2, dtype=np.float64)
        mean: Floats = (total / np.maximum(which.sum(axis=2), 1)).astype(np.float32)
        return mean

    def one(self, values: Floats, empty: float = 0.0) -> Floats:
        """The value of one sample, never mixed: the covered one nearest to the pixel's centre."""
        index = self._nearest[(..., *([None] * (values.ndim - 2)))]
        chosen = np.take_along_axis(values, index, axis=2)[:, :, 0]
        any_covered = np.asarray(self.covered.any(axis=2))[(..., *([None] * (values.ndim - 3)))]
        return np.where(any_covered, chosen, np.float32(empty)).astype(np.float32)

    @cached_property
    def _nearest(self) -> NDArray[np.int64]:
        far = np.square(self.offsets).sum(axis=-1)
        nearest: NDArray[np.int64] = np.where(self.covered, far, np.inf).argmin(axis=2)
        return nearest
