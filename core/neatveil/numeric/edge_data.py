"""Data of one sample a pixel, made fit for edges: depth, vectors.

Where an edge has mixed what a pixel holds, its data are those of the nearest pixel that is one surface alone.
"""

# mypy: disable-error-code="no-untyped-def,misc"

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .jit import inline, kernel
from .pool import for_strips
from .texture import WHOLE
from .texture_loops import REACH

Floats = NDArray[np.float32]


def carried_over_edge(planes: Sequence[Floats], alpha: Floats) -> list[Floats]:
    """``(H, W)`` each: at the edge of ``alpha`` they are those of the nearest pixel covered whole."""
    height, width = alpha.shape
    share = np.ascontiguousarray(alpha, np.float32)
    given = [np.ascontiguousarray(p, np.float32) for p in planes]
    if not ((share > 0) & (share < WHOLE)).any():
        return given
    out = new_array((len(given), height, width))
    for plane, to in zip(given, out, strict=True):
        np.copyto(to, plane)
    before = out.copy()
    for_strips(height, width, lambda a, b: _carry(before, share, np.float32(WHOLE), REACH, a, b, out))
    return list(out)


@kernel
def _carry(given, share, whole, reach, first, end, out):
    count, height, width = given.shape
    for y in range(first, end):
        for x in range(width):
            if not np.float32(0) < share[y, x] < whole:
                continue
            best, by, bx = reach * reach + 1, y, x
            for b in range(max(0, y - reach), min(height, y + reach + 1)):
                for a in range(max(0, x - reach), min(width, x + reach + 1)):
                    far = (b - y) * (b - y) + (a - x) * (a - x)
                    if far < best and share[b, a] >= whole:
                        best, by, bx = far, b, a
            for i in range(count):
                out[i, y, x] = given[i, by, bx]


def without_mixed_depth(depth: Floats) -> Floats:
    """``(H, W)``: a depth that an edge has mixed, over one or two pixels, is that of the nearer surface.

    Such a pixel lies between its neighbours, and those are even, each on its own side.
    """
    height, width = depth.shape
    out = new_array((height, width))
    given = np.ascontiguousarray(depth, np.float32)
    for_strips(height, width, lambda a, b: _unmix(given, a, b, out))
    return out


@inline
def _side(outer_before, before, here, after, outer_after):
    """The nearer of two surfaces where ``here`` is a mixture of them, else ``here``."""
    jump = abs(after - before)
    even = abs(outer_before - before) + abs(outer_after - after) < np.float32(0.1) * jump
    between = (here - before) * (after - here) > 0
    large = jump > np.float32(0.05) * min(abs(before), abs(after))
    mixed = even and between and large
    return min(before, after) if mixed else here


@kernel
def _unmix(depth, first, end, out):
    height, width = depth.shape
    for y in range(first, end):
        for x in range(width):
            here = depth[y, x]
            found = here
            for reach in range(1, 3):
                for back in range(1, reach + 1):  # the mixture's first pixel lies ``back`` after the surface
                    after = reach + 1 - back
                    if found == here and x - back - 1 >= 0 and x + after + 1 < width:
                        found = _side(
                            depth[y, x - back - 1], depth[y, x - back], here, depth[y, x + after],
                            depth[y, x + after + 1],
                        )  # fmt: skip
                    if found == here and y - back - 1 >= 0 and y + after + 1 < height:
                        found = _side(
                            depth[y - back - 1, x], depth[y - back, x], here, depth[y + after, x],
                            depth[y + after + 1, x],
                        )  # fmt: skip
            out[y, x] = found
