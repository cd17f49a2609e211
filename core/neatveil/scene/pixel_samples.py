"""All samples of some pixels, from one shot or from many: what passes read, and how samples become pixels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from .lighting import behind, lit
from .model import Floats
from .moment_samples import Bools, MomentSamples
from .world import World


@dataclass(frozen=True)
class PixelSamples:
    """Samples of some pixels; shapes are ``(rows, width, samples)``.

    A picture of one moment is one shot; a shutter that stays open makes one for each of several
    moments, whose samples stand side by side.
    """

    moments: tuple[MomentSamples, ...]

    @property
    def world(self) -> World:
        """Any shot's: what things are made of is the same in all."""
        return self.moments[0].world

    @cached_property
    def shape(self) -> tuple[int, int, int]:
        rows, width, _ = self.moments[0].shape
        return rows, width, sum(s.shape[2] for s in self.moments)

    def each(self, of: Callable[[MomentSamples], NDArray[Any]]) -> NDArray[Any]:
        """What each shot has, ``(rows, width, samples, ...)``, side by side."""
        if len(self.moments) == 1:
            return of(self.moments[0])
        return np.concatenate([of(s) for s in self.moments], axis=2)

    @cached_property
    def offsets(self) -> Floats:
        return self.each(lambda s: s.offsets)

    @cached_property
    def part(self) -> NDArray[np.int32]:
        """Number of the part that was met; -1 where nothing was."""
        return self.each(lambda s: s.part)

    @cached_property
    def covered(self) -> Bools:
        """Whether the sample met anything that is shown."""
        return self.each(lambda s: s.covered)

    @cached_property
    def depth(self) -> Floats:
        """Distance along the camera's axis, in the scene's units; infinite where nothing was met."""
        return self.each(lambda s: s.depth)

    @cached_property
    def position(self) -> Floats:
        """World position, ``(..., 3)``; 0 where nothing was met."""
        return self.each(lambda s: s.spread(s.surface_hits.position))

    @cached_property
    def normal(self) -> Floats:
        """World normal of length 1, turned towards the camera, ``(..., 3)``."""
        return self.each(lambda s: s.spread(s.surface_hits.normal))

    @cached_property
    def uv(self) -> Floats:
        """``(..., 2)``: u to the right, v down the picture; 0 where nothing was met."""
        return self.each(lambda s: s.spread(s.surface_hits.uv))

    @cached_property
    def alpha(self) -> Floats:
        """How much each pixel hides of what is behind, ``(rows, width)``; glass lets its share through."""
        if not (self.world.glassy.any() and self.moments[0].light.clear_glass):
            return self.share(self.covered)
        hides: Floats = np.float32(1) - self.light(self.behind).mean(axis=2)
        return hides

    @cached_property
    def behind(self) -> Floats:
        """The share of what lies behind that each sample shows, ``(..., 3)``."""
        return self.each(behind)

    @cached_property
    def beauty(self) -> Floats:
        """Light of everything as the pixels', ``(rows, width, 3)``."""
        return self.light(self.each(lambda s: lit(s).beauty))

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
        """The value of one sample, never mixed: the covered one nearest to the pixel's centre.

        Of several moments the middle one's, where that has any.
        """
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
        middle = len(self.moments) // 2
        late = [np.full(s.shape[2], abs(i - middle), np.float32) for i, s in enumerate(self.moments)]
        find_nearest(
            self.offsets.reshape(-1, samples, 2), self.covered.reshape(-1, samples), np.concatenate(late),
            nearest.reshape(-1),
        )  # fmt: skip
        return nearest

    @cached_property
    def noise(self) -> float:
        """The pixels' standard error of alpha or of luma, whichever is larger, on the screen's scale.

        The samples are spread more evenly than by lot, so the true error is smaller.
        """
        count = self.shape[2]
        if count < 2:
            return float("inf")
        hides = self.behind.mean(axis=3)
        luma = self.each(lambda s: lit(s).beauty).mean(axis=3)
        # a screen shows about the square root of light, whose slope is 1 / (2 sqrt)
        slope = 0.5 / np.sqrt(np.maximum(luma.mean(axis=2), 0.01))
        errors = hides.var(axis=2, ddof=1), luma.var(axis=2, ddof=1) * slope**2
        return float(np.sqrt(max(e.mean() for e in errors) / count))


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
def find_nearest(offsets, covered, late, nearest):  # type: ignore[no-untyped-def]
    """The covered sample nearest to the pixel's centre and the middle moment; else the first."""
    for p in range(covered.shape[0]):
        least, best = np.float32(np.inf), 0
        for s in range(covered.shape[1]):
            # moments count more than any distance inside a pixel
            far = offsets[p, s, 0] ** 2 + offsets[p, s, 1] ** 2 + 100 * late[s]
            if covered[p, s] and far < least:
                least, best = far, s
        nearest[p] = best
