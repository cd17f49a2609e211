"""Writing PNG frames [PNG]: rows are filtered by kernels, and deflated by ISA-L [ISA-L].

The deflate is the cost of a PNG frame of 16 bits; ISA-L's takes a fifth of zlib's at the same size.
"""

# mypy: disable-error-code="import-untyped"

from __future__ import annotations

import struct
from collections.abc import Iterator
from pathlib import Path
from typing import BinaryIO

import numpy as np
from isal import isal_zlib
from numpy.typing import NDArray

from ...colour import encoding_named
from ...colour.curves import CURVES
from ...colour.primaries import PRIMARIES
from ...colour.spaces import is_space
from ...numeric.blocks import new_array
from ...numeric.jit import inline, kernel
from ...numeric.pool import for_strips
from . import h273

_SIGNATURE = b"\x89PNG\r\n\x1a\n"
#: Kind of colour by the number of channels: grey, grey and alpha, R, G, B, with alpha.
_KINDS = {1: 0, 2: 4, 3: 2, 4: 6}
#: Bytes that are deflated at a time.
_AT_ONCE = 1 << 20
_SUB, _UP = 1, 2


def save(
    path: Path, codes: NDArray[np.unsignedinteger], encoding: str, corner: tuple[int, int] = (0, 0)
) -> None:
    """``codes``: ``(H, W, C)`` uint8 or uint16: grey, grey and alpha, R, G, B, or these and a straight alpha.

    ``corner``: where its upper left pixel lies. Raises `OSError`.
    """
    height, width, count = codes.shape
    head = struct.pack(">IIBBBBB", width, height, codes.itemsize * 8, _KINDS[count], 0, 0, 0)
    with path.open("wb") as file:
        file.write(_SIGNATURE)
        _put(file, b"IHDR", head)
        for kind, data in colour_chunks(encoding):
            _put(file, kind, data)
        if corner != (0, 0):
            _put(file, b"oFFs", struct.pack(">iiB", *corner, 0))
        rows = filtered(codes).reshape(-1)
        deflate = isal_zlib.compressobj(level=1, wbits=15)
        for at in range(0, rows.size, _AT_ONCE):
            if data := deflate.compress(rows[at : at + _AT_ONCE]):
                _put(file, b"IDAT", data)
        _put(file, b"IDAT", deflate.flush())
        _put(file, b"IEND", b"")


def _put(file: BinaryIO, kind: bytes, data: bytes) -> None:
    file.write(struct.pack(">I", len(data)) + kind)
    file.write(data)
    file.write(struct.pack(">I", isal_zlib.crc32(data, isal_zlib.crc32(kind))))


def colour_chunks(encoding: str) -> Iterator[tuple[bytes, bytes]]:
    """What the file says of its colour: by sRGB where it is that, else by the numbers of cICP.

    And by gAMA and cHRM, for readers that know no better. Of a space without numbers nothing is said.
    Source: PNG, third edition, 11.3.2 [PNG3].
    """
    transfer, primaries = h273.codes_of(encoding)
    if h273.UNSAID not in (transfer, primaries) and (transfer, primaries) != (13, 1):
        yield b"cICP", bytes((primaries, transfer, 0, 1))
    if is_space(encoding):
        return
    meaning = encoding_named(encoding)
    if (meaning.name, meaning.primaries) == ("srgb", "bt709"):
        yield b"sRGB", b"\x00"
    if meaning.name not in {"rec709", *CURVES}:  # a camera's curve is no power
        gamma = 1 / 2.2 if meaning.name == "srgb" else meaning.exponent
        yield b"gAMA", struct.pack(">I", round(gamma * 1e5))
    p = PRIMARIES[meaning.primaries]
    yield b"cHRM", struct.pack(">8I", *(round(v * 1e5) for v in (*p.white, *p.red, *p.green, *p.blue)))


def filtered(codes: NDArray[np.unsignedinteger]) -> NDArray[np.uint8]:
    """``(H, 1 + bytes of a row)``: each row by the filter whose differences are smaller, its number before.

    Sub takes the pixel on the left away, Up the one above. Source: PNG, 9.2 and 12.7.
    """
    height, width, count = codes.shape
    step = count * codes.itemsize
    rows = np.ascontiguousarray(codes).reshape(height, -1).view(np.uint8)
    out = new_array((height, 1 + width * step), np.uint8)
    for_strips(height, width * count, lambda a, b: _filter(rows, codes.itemsize == 2, step, a, b, out))
    return out


@inline
def _size(difference):  # type: ignore[no-untyped-def]
    """Of a byte taken as a number from -128 to 127."""
    number = np.int32(np.int8(np.uint8(difference)))
    return number if number > np.int32(0) else -number


# A loop for each: in one loop the compiler works on single bytes, six times slower.


@kernel
def _filter(rows, swapped, step, first, last, out):  # type: ignore[no-untyped-def]
    row, above = np.zeros(rows.shape[1], np.uint8), np.zeros(rows.shape[1], np.uint8)
    if first:
        _most_significant_first(rows[first - 1], swapped, row)
    for y in range(first, last):
        row, above = above, row
        _most_significant_first(rows[y], swapped, row)
        target = out[y, 1:]
        here, left, over, beyond = row[step:], row[: row.size - step], above[step:], target[step:]
        sub, up = np.int32(0), np.int32(0)
        for x in range(here.size):
            sub += _size(here[x] - left[x])
        for x in range(here.size):
            up += _size(here[x] - over[x])
        out[y, 0] = _UP if up < sub else _SUB
        if up < sub:
            for x in range(row.size):
                target[x] = np.uint8(row[x] - above[x])
        else:
            for x in range(step):
                target[x] = row[x]
            for x in range(here.size):
                beyond[x] = np.uint8(here[x] - left[x])


@kernel
def _most_significant_first(row, swapped, out):  # type: ignore[no-untyped-def]
    """The bytes of a row; of samples of 16 bits, which the processor holds the other way round, in pairs."""
    if swapped:
        for x in range(row.size // 2):
            out[2 * x], out[2 * x + 1] = row[2 * x + 1], row[2 * x]
    else:
        out[:] = row
