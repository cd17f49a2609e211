"""Targa pictures of 16 bits a pixel: five bits each of red, green and blue, and one of alpha.

OpenImageIO reads their colour and drops the bit. Source: Truevision TGA File Format Specification 2.0, 1991.
"""

from __future__ import annotations

import struct
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ...errors import FileDamaged
from ...picture import Plane

_HEAD = struct.Struct("<BBBHHBHHHHBB")


def has_alpha_bit(path: Path) -> bool:
    """Whether the header says that it is of this kind: true colour, 16 bits, one attribute bit."""
    if path.suffix.lower() != ".tga":
        return False
    try:
        with path.open("rb") as file:
            head = file.read(_HEAD.size)
    except OSError:
        return False
    if len(head) < _HEAD.size:
        return False
    fields = _HEAD.unpack(head)
    return fields[2] in {2, 10} and fields[10] == 16 and fields[11] & 15 == 1


def alpha_of(path: Path) -> Plane:
    """``(H, W)`` 0 or 1: the attribute bit of every pixel, in the order in which the picture is shown."""
    data = path.read_bytes()
    fields = _HEAD.unpack_from(data)
    map_entries, map_bits = fields[4], fields[5]
    width, height, descriptor = fields[8], fields[9], fields[11]
    at = _HEAD.size + fields[0] + (map_entries * -(-map_bits // 8) if fields[1] else 0)
    count = width * height
    pixels = _plain(data, at, count) if fields[2] == 2 else _run_lengths(data, at, count)
    if pixels.size < count:
        raise FileDamaged(
            f"{path.name} ends before its last row.", advice="Copy or render it again.", where=path.name
        )
    bits = (pixels[:count] >> 15).reshape(height, width).astype(np.float32)
    rows = bits if descriptor & 0x20 else bits[::-1]
    return np.ascontiguousarray(rows[:, ::-1] if descriptor & 0x10 else rows)


def _plain(data: bytes, at: int, count: int) -> NDArray[np.uint16]:
    return np.frombuffer(data, "<u2", min(count, max(0, len(data) - at) // 2), at)


def _run_lengths(data: bytes, at: int, count: int) -> NDArray[np.uint16]:
    found: list[NDArray[np.uint16]] = []
    have = 0
    while have < count and at + 2 < len(data):
        size = (data[at] & 0x7F) + 1
        if data[at] & 0x80:
            found.append(np.repeat(np.frombuffer(data, "<u2", 1, at + 1), size))
            at += 3
        else:
            found.append(_plain(data[: at + 1 + 2 * size], at + 1, size))
            at += 1 + 2 * size
        have += size
    return np.concatenate(found) if found else np.empty(0, np.uint16)
