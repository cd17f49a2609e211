"""The chunks of a PNG file, without what they hold. Source: PNG specification, 5.3 chunk layout [PNG]."""

from __future__ import annotations

import struct
from collections.abc import Iterator
from typing import BinaryIO, NamedTuple


class Chunk(NamedTuple):
    """``begin`` and ``end``: of its data in the file; a checksum of four bytes follows."""

    kind: bytes
    begin: int
    end: int


def chunks_of(file: BinaryIO) -> Iterator[Chunk]:
    """In their order, as far as their heads are there."""
    at = 8
    while True:
        file.seek(at)
        head = file.read(8)
        if len(head) < 8:
            return
        length, kind = struct.unpack(">I4s", head)
        chunk = Chunk(kind, at + 8, at + 8 + length)
        yield chunk
        at = chunk.end + 4
