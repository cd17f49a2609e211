"""Samples as decoders and encoders hold them, interleaved, from and to float32 planes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from ...numeric.blocks import new_array
from ...numeric.jit import inline, kernel
from ...numeric.pool import for_strips
from ...picture import Plane


@cache
def _half_table() -> NDArray[np.float32]:
    """The value of each of the 65,536 half numbers: looking up is four times as fast as converting."""
    return np.arange(1 << 16, dtype=np.uint16).view(np.float16).astype(np.float32)


@cache
def _coverage_table() -> NDArray[np.float32]:
    """As `_half_table` within 0..1, which an alpha is brought to before it is halved; NaN stays."""
    return np.clip(_half_table(), 0, 1)


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


def fill_halved(planes: Mapping[str, Plane], block: NDArray[np.generic], indices: Sequence[int]) -> None:
    """Planes ``(H / 2, W / 2)`` of means of 2 x 2 from channels of a block ``(H, W, C)`` of half numbers.

    The same numbers as `fill_planes`, A brought within 0..1 as reading does, and then the mean, without ever
    writing the large planes.
    """
    codes = block.view(np.uint16)

    def strip(a: int, b: int) -> None:
        for (name, plane), index in zip(planes.items(), indices, strict=True):
            table = _coverage_table() if name == "A" else _half_table()
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


@inline
def share(v):  # type: ignore[no-untyped-def]
    """The nearest value in 0..1; NaN is 0."""
    v = v if v > np.float32(0) else np.float32(0)
    return v if v < np.float32(1) else np.float32(1)


@kernel
def _clamped(plane, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = share(plane[i])


@kernel
def _to_codes(plane, index, top, out):  # type: ignore[no-untyped-def]
    for y in range(plane.shape[0]):
        row, target = plane[y], out[y]
        for x in range(row.size):
            target[x, index] = np.uint16(np.rint(share(row[x]) * top))


def clamped(plane: Plane) -> Plane:
    """A new plane ``(H, W)`` of the nearest values in 0..1; NaN is 0."""
    out = new_array(plane.shape)
    height, width = plane.shape
    for_strips(height, width, lambda a, b: _clamped(plane[a:b].reshape(-1), out[a:b].reshape(-1)))
    return out


def to_codes(planes: Sequence[Plane], kind: type[np.uint8] | type[np.uint16]) -> NDArray[np.unsignedinteger]:
    """Codes ``(H, W, C)``, rounded to nearest, of values that are clipped to 0..1; NaN is 0."""
    height, width = planes[0].shape
    block = new_array((height, width, len(planes)), kind)
    top = np.float32(np.iinfo(kind).max)

    def strip(a: int, b: int) -> None:
        for index, plane in enumerate(planes):
            _to_codes(plane[a:b], index, top, block[a:b])

    for_strips(height, width * len(planes), strip)
    return block
