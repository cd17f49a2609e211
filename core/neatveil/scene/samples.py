"""Where in each pixel the rays go, by the pixel's filter.

The filter is sampled by its own density (filter importance sampling), so that every sample counts
the same and belongs to one pixel alone: passes need no weights and masks add up to the alpha.

Source: Pharr, Jakob & Humphreys 2023, sections 8.8 and A.4 [PharrJakobHumphreys2023]; the
sequence: Roberts 2018 [Roberts2018].
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import inline, kernel
from .model import Floats

PixelFilter = Literal["box", "triangle", "gaussian"]

#: Standard deviation of the gaussian in pixels, and where it ends (common practice, no source).
GAUSSIAN_SIGMA, GAUSSIAN_END = 0.5, 1.5

#: Steps of the additive recurrence with the most even gaps in the plane: powers of the plastic number.
_G = 1.32471795724474602596
STEP_X, STEP_Y = 1 / _G, 1 / _G**2

_BOX, _TRIANGLE, _TABLE = 0, 1, 2


@dataclass(frozen=True)
class Grid:
    """Samples of some pixels: columns ``x0`` to ``x1``, rows ``y0`` to ``y1``, of each pixel ``count``.

    ``begun`` samples of the same pixels were taken before. What is drawn by lot depends on a pixel's
    place and on the sample's number alone, not on which pixels are asked for together.
    """

    x0: int
    y0: int
    x1: int
    y1: int
    count: int
    seed: int = 0
    begun: int = 0

    @property
    def shape(self) -> tuple[int, int, int]:
        return self.y1 - self.y0, self.x1 - self.x0, self.count

    @property
    def size(self) -> int:
        rows, width, count = self.shape
        return rows * width * count

    def offsets(self, pixel_filter: PixelFilter, alone: bool) -> Floats:
        """``(rows, width, count, 2)`` distances in pixels from each pixel's centre, x and y.

        ``alone``: the pixel has no other samples; a single one then lies in the centre.
        """
        out = new_array((*self.shape, 2))
        kind = {"box": _BOX, "triangle": _TRIANGLE, "gaussian": _TABLE}[pixel_filter]
        if self.count == 1 and alone:
            out[:] = 0
        else:
            fill_offsets(out, self.x0, self.y0, self.begun, self.seed, kind, _gaussian())
        return out

    def pairs(self, salt: int) -> Floats:
        """``(N, 2)`` numbers in 0..1, evenly spread over the samples of each pixel."""
        out = new_array((*self.shape, 2))
        fill_pairs(out, self.x0, self.y0, self.begun, self.seed + 7919 * salt)
        return out.reshape(-1, 2)

    def singles(self, salt: int) -> Floats:
        """``(N,)`` numbers in 0..1, evenly spread over each pixel's samples, in another order by salt."""
        out = new_array(self.shape)
        fill_singles(out, self.x0, self.y0, self.begun, self.seed, salt)
        return out.reshape(-1)

    def keys(self) -> NDArray[np.uint64]:
        """``(N,)`` a number of each sample's own, for `hashed`."""
        out = np.empty(self.shape, np.uint64)
        fill_keys(out, self.x0, self.y0, self.begun, self.seed)
        return out.reshape(-1)


def hashed(keys: NDArray[np.uint64], salt: int) -> Floats:
    """``(N,)`` numbers in 0..1 from keys, unlike for each salt."""
    out = new_array((len(keys),))
    fill_hashed(keys, salt, out)
    return out


@cache
def _gaussian() -> NDArray[np.float32]:
    """The inverse of the truncated normal's distribution at 4097 even steps of 0..1."""
    x = np.linspace(-GAUSSIAN_END, GAUSSIAN_END, 20001)
    density = np.exp(-0.5 * (x / GAUSSIAN_SIGMA) ** 2)
    total = np.concatenate([[0], np.cumsum((density[1:] + density[:-1]) / 2)])
    return np.interp(np.linspace(0, 1, 4097), total / total[-1], x).astype(np.float32)


@inline
def mixed(x, y, seed):  # type: ignore[no-untyped-def]
    """64 bits from a pixel's place and a seed. Source: MurmurHash3's finalizer [Appleby2011]."""
    h = np.uint64(x) * np.uint64(0x9E3779B97F4A7C15)
    h ^= np.uint64(y + 1) * np.uint64(0xC2B2AE3D27D4EB4F)
    h ^= np.uint64(seed) * np.uint64(0x165667B19E3779F9)
    h = (h ^ (h >> np.uint64(33))) * np.uint64(0xFF51AFD7ED558CCD)
    h = (h ^ (h >> np.uint64(33))) * np.uint64(0xC4CEB9FE1A85EC53)
    return h ^ (h >> np.uint64(33))


@inline
def noise(x, y, seed):  # type: ignore[no-untyped-def]
    """A number in 0..1 from a pixel's place and a seed."""
    return np.float64(mixed(x, y, seed) >> np.uint64(11)) / np.float64(9007199254740992.0)


@inline
def _offset(unit, kind, table):  # type: ignore[no-untyped-def]
    """A uniform number to a distance from the centre with the filter's density."""
    place = unit * (table.size - 1)
    k = min(np.int64(place), table.size - 2)
    offset = table[k] + (place - k) * (table[k + 1] - table[k])
    if kind == 0:
        offset = unit - 0.5
    elif kind == 1:
        offset = np.sqrt(2 * unit) - 1 if unit < 0.5 else 1 - np.sqrt(2 * (1 - unit))
    return offset


@kernel
def fill_offsets(out, x0, y0, begun, seed, kind, table):  # type: ignore[no-untyped-def]
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            u, v = noise(x0 + x, y0 + y, 2 * seed), noise(x0 + x, y0 + y, 2 * seed + 1)
            u, v = u + begun * STEP_X, v + begun * STEP_Y
            for s in range(out.shape[2]):
                u, v = u + STEP_X, v + STEP_Y
                u, v = u - np.floor(u), v - np.floor(v)
                out[y, x, s, 0] = _offset(u, kind, table)
                out[y, x, s, 1] = _offset(v, kind, table)


@kernel
def fill_pairs(out, x0, y0, begun, seed):  # type: ignore[no-untyped-def]
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            u, v = noise(x0 + x, y0 + y, 2 * seed), noise(x0 + x, y0 + y, 2 * seed + 1)
            u, v = u + begun * STEP_X, v + begun * STEP_Y
            for s in range(out.shape[2]):
                u, v = u + STEP_X, v + STEP_Y
                u, v = u - np.floor(u), v - np.floor(v)
                out[y, x, s, 0], out[y, x, s, 1] = u, v


@kernel
def fill_singles(out, x0, y0, begun, seed, salt):  # type: ignore[no-untyped-def]
    step = np.float64(0.6180339887498949) * (salt + 1)
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            place = noise(x0 + x, y0 + y, 2 * seed + 1000003 * (salt + 1)) + begun * step
            for s in range(out.shape[2]):
                place += step
                place -= np.floor(place)
                out[y, x, s] = place


@kernel
def fill_keys(out, x0, y0, begun, seed):  # type: ignore[no-untyped-def]
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            first = mixed(x0 + x, y0 + y, seed)
            for s in range(out.shape[2]):
                out[y, x, s] = first + np.uint64(begun + s) * np.uint64(0x9E3779B97F4A7C15)


@kernel
def fill_hashed(keys, salt, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = np.float32(noise(keys[i], salt, 0))
