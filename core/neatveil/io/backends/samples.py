"""Samples as decoders hand them over, interleaved, to float32 planes."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from ...numeric.jit import kernel
from ...numeric.pool import for_strips
from ...picture import Plane


@cache
def _half_table() -> NDArray[np.float32]:
    """The value of each of the 65,536 half numbers: looking up is four times as fast as converting."""
    return np.arange(1 << 16, dtype=np.uint16).view(np.float16).astype(np.float32)


@cache
def _code_table(kind: str) -> NDArray[np.float32]:
    """Integers as shares of their largest code, rounded correctly."""
    top = {"B": 255, "H": 65535}[kind]
    return np.arange(top + 1, dtype=np.float32) / np.float32(top)


@kernel
def _looked_up(block, index, table, out):  # type: ignore[no-untyped-def]
    for y in range(block.shape[0]):
        row, target = block[y], out[y]
        for x in range(target.size):
            target[x] = table[row[x, index]]


@kernel
def _halved(block, index, table, out):  # type: ignore[no-untyped-def]
    """The mean of 2 x 2 samples, added up in the order in which `halve` adds them."""
    quarter = np.float32(0.25)
    for y in range(out.shape[0]):
        upper, lower, target = block[2 * y], block[2 * y + 1], out[y]
        for x in range(target.size):
            above = table[upper[2 * x, index]] + table[upper[2 * x + 1, index]]
            below = table[lower[2 * x, index]] + table[lower[2 * x + 1, index]]
            target[x] = (above + below) * quarter


@kernel
def _tamed(values):  # type: ignore[no-untyped-def]
    tiny, zero = np.float32(1e-30), np.float32(0)
    for i in range(values.size):
        v = values[i]
        values[i] = zero if abs(v) < tiny else v


def without_denormals(plane: Plane) -> None:
    """Values nearer to 0 than 1e-30 become 0, in place: they show nothing and make arithmetic crawl."""
    for_strips(plane.shape[0], plane.shape[1], lambda a, b: _tamed(plane[a:b].reshape(-1)))


def fill_halved(planes: Sequence[Plane], block: NDArray[np.generic], indices: Sequence[int]) -> None:
    """Planes ``(H / 2, W / 2)`` of means of 2 x 2 from channels of a block ``(H, W, C)`` of half numbers.

    The same numbers as `fill_planes` and then the mean, without ever writing the large planes.
    """
    codes, table = block.view(np.uint16), _half_table()

    def strip(a: int, b: int) -> None:
        for plane, index in zip(planes, indices, strict=True):
            _halved(codes[2 * a : 2 * b], index, table, plane[a:b])

    for_strips(block.shape[0] // 2, block.shape[1] * block.shape[2], strip)


def fill_planes(planes: Sequence[Plane], block: NDArray[np.generic], indices: Sequence[int]) -> None:
    """Planes ``(H, W)`` from the given channels of a block ``(H, W, C)`` of any sample type.

    Half and float as they are; uint8 and uint16 as shares of their largest code.
    """
    height, width, _ = block.shape
    kind = block.dtype.char
    if kind in {"e", "B", "H"}:
        table = _half_table() if kind == "e" else _code_table(kind)
        codes = block.view(np.uint16) if kind == "e" else block

        def strip(a: int, b: int) -> None:
            for plane, index in zip(planes, indices, strict=True):
                _looked_up(codes[a:b], index, table, plane[a:b])

    else:

        def strip(a: int, b: int) -> None:
            for plane, index in zip(planes, indices, strict=True):
                plane[a:b] = block[a:b, :, index]

    for_strips(height, width * block.shape[2], strip)
