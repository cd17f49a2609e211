"""Where in each pixel the rays go, by the pixel's filter.

The filter is sampled by its own density (filter importance sampling), so that every sample counts
the same and belongs to one pixel alone: passes need no weights and masks add up to the alpha.

Source: Pharr, Jakob & Humphreys 2023, sections 8.8 and A.4 [PharrJakobHumphreys2023]; the
sequence: Roberts 2018 [Roberts2018].
"""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import inline, kernel

PixelFilter = Literal["box", "triangle", "gaussian"]

#: Standard deviation of the gaussian in pixels, and where it ends (common practice, no source).
GAUSSIAN_SIGMA, GAUSSIAN_END = 0.5, 1.5

#: Steps of the additive recurrence with the most even gaps in the plane: powers of the plastic number.
_G = 1.32471795724474602596
STEP_X, STEP_Y = 1 / _G, 1 / _G**2

_BOX, _TRIANGLE, _TABLE = 0, 1, 2


def sample_offsets(
    width: int, rows: tuple[int, int], samples: int, pixel_filter: PixelFilter = "box", seed: int = 0
) -> NDArray[np.float32]:
    """``(rows, width, samples, 2)`` distances in pixels from each pixel's centre, x and y.

    A single sample lies in the centre. A pixel's samples do not depend on which rows are asked for.
    """
    out = new_array((rows[1] - rows[0], width, samples, 2))
    kind = {"box": _BOX, "triangle": _TRIANGLE, "gaussian": _TABLE}[pixel_filter]
    if samples == 1:
        out[:] = 0
    else:
        fill_offsets(out, rows[0], seed, kind, _gaussian())
    return out


@cache
def _gaussian() -> NDArray[np.float32]:
    """The inverse of the truncated normal's distribution at 4097 even steps of 0..1."""
    x = np.linspace(-GAUSSIAN_END, GAUSSIAN_END, 20001)
    density = np.exp(-0.5 * (x / GAUSSIAN_SIGMA) ** 2)
    total = np.concatenate([[0], np.cumsum((density[1:] + density[:-1]) / 2)])
    return np.interp(np.linspace(0, 1, 4097), total / total[-1], x).astype(np.float32)


@inline
def noise(x, y, seed):  # type: ignore[no-untyped-def]
    """A number in 0..1 from a pixel's place and a seed. Source: MurmurHash3's finalizer [Appleby2011]."""
    h = np.uint64(x) * np.uint64(0x9E3779B97F4A7C15)
    h ^= np.uint64(y + 1) * np.uint64(0xC2B2AE3D27D4EB4F)
    h ^= np.uint64(seed) * np.uint64(0x165667B19E3779F9)
    h = (h ^ (h >> np.uint64(33))) * np.uint64(0xFF51AFD7ED558CCD)
    h = (h ^ (h >> np.uint64(33))) * np.uint64(0xC4CEB9FE1A85EC53)
    h = h ^ (h >> np.uint64(33))
    return np.float64(h >> np.uint64(11)) / np.float64(9007199254740992.0)


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
def fill_offsets(out, first_row, seed, kind, table):  # type: ignore[no-untyped-def]
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            u, v = noise(x, first_row + y, 2 * seed), noise(x, first_row + y, 2 * seed + 1)
            for s in range(out.shape[2]):
                u, v = u + STEP_X, v + STEP_Y
                u, v = u - np.floor(u), v - np.floor(v)
                out[y, x, s, 0] = _offset(u, kind, table)
                out[y, x, s, 1] = _offset(v, kind, table)
