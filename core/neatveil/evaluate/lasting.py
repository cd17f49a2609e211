"""Planes that take long to make, kept in files by content key: for other processes, and for tomorrow."""

from __future__ import annotations

import io
import os
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import numpy as np
from isal import isal_zlib

from ..errors import WriteFailed
from ..io.whole import whole_file
from ..picture import Plane

#: Compressed at once: a draft must not wait for it.
_ENDING = ".z"
#: Of so many that are put in, one looks at how much there is.
_LOOK_EVERY = 16


class LastingPlanes:
    """Files in a folder; those that were used longest ago go first when the bytes are over the limit.

    A cache: where the disk is full or a file is torn, the plane is made again.

    Parameters
    ----------
    folder : where they lie; asked each time, since it may change.
    most_bytes : bound of all of them together.
    """

    def __init__(self, folder: Callable[[], Path], most_bytes: int) -> None:
        self._folder, self._most = folder, most_bytes
        self._put = 0

    def get(self, key: str) -> Plane | None:
        """``(H, W)`` float32 as it was put in, or None."""
        path = self._folder() / f"{key}{_ENDING}"
        try:
            held = io.BytesIO(isal_zlib.decompress(path.read_bytes()))
            plane: Plane = np.load(held, allow_pickle=False)
            path.touch()
        except Exception:  # noqa: BLE001 - whatever is wrong with the file: it is written anew
            return None
        return plane

    def put(self, key: str, plane: Plane) -> None:
        """Whole or not at all."""
        path = self._folder() / f"{key}{_ENDING}"
        held = io.BytesIO()
        np.save(held, plane)
        with suppress(WriteFailed, OSError):
            with whole_file(path) as part:
                part.write_bytes(isal_zlib.compress(held.getbuffer(), 1))
            self._put += 1
            if self._put % _LOOK_EVERY == 1:
                self._shrink(path.parent)

    def _shrink(self, folder: Path) -> None:
        rows = [(entry.stat(), entry.path) for entry in os.scandir(folder) if entry.name.endswith(_ENDING)]
        over = sum(found.st_size for found, _ in rows) - self._most
        for found, path in sorted(rows, key=lambda row: row[0].st_mtime):
            if over <= 0:
                return
            Path(path).unlink(missing_ok=True)
            over -= found.st_size
