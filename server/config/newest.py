"""The newest request of each viewer, known to every web process of the machine.

A picture that is not wanted any more is not drawn to its end. Whoever asked for the newer one may have been
answered by another process, so the numbers stand in a small file that all of them map into memory. On several
machines each has its own: there an old picture may be drawn in vain, and the page passes over it.
"""

from __future__ import annotations

import hashlib
import mmap
import os
import struct
from collections.abc import Callable
from pathlib import Path

#: Viewers that have a place; one that meets another's takes it over.
PLACES = 4096
_ROW = struct.Struct("<Qq")


class NewestRequests:
    """``path``: a file of this machine, made where it is not there."""

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
        try:
            os.truncate(handle, PLACES * _ROW.size)
            self._rows = mmap.mmap(handle, PLACES * _ROW.size)
        finally:
            os.close(handle)

    def note(self, viewer: str, number: int) -> Callable[[], bool]:
        """This viewer has asked for its request of this number.

        Gives a function that says whether it has asked for something newer since.
        """
        place, name = _place(viewer)
        who, newest = _ROW.unpack_from(self._rows, place)
        if who != name or number > newest:
            # two processes that write at once may leave the older one: then it is drawn in vain
            _ROW.pack_into(self._rows, place, name, number)

        def outdated() -> bool:
            who, newest = _ROW.unpack_from(self._rows, place)
            return bool(who == name and newest > number)

        return outdated


def _place(viewer: str) -> tuple[int, int]:
    digest = hashlib.blake2b(viewer.encode("utf-8", "replace"), digest_size=8).digest()
    name = int.from_bytes(digest, "little")
    return name % PLACES * _ROW.size, name
