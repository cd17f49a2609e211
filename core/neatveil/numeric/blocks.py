"""Memory for planes, handed out again after use.

Fresh memory from the system is filled with zeros a page at a time when it is first touched, which
takes longer than most steps: 8 ms for a picture of viewer size that is worked on in 2. So blocks
are taken from the system in huge pages and kept, up to a limit, when nothing refers to them.
"""

from __future__ import annotations

import math
import mmap
import os
import threading
import weakref
from collections import deque

import numpy as np
from numpy.typing import DTypeLike, NDArray

#: Arrays below this size come from NumPy: its own allocator keeps such memory.
SMALL = 256 * 1024

_MEGABYTE = 1024 * 1024


def _kept() -> int:
    """A part of the machine's memory; from four planes of a 4K frame to three times as much."""
    memory = os.sysconf("SC_PHYS_PAGES") * os.sysconf("SC_PAGE_SIZE")
    return min(max(memory // 48, 136 * _MEGABYTE), 408 * _MEGABYTE)


#: Bytes of unused blocks that are kept.
KEEP = _kept()

_HUGE_PAGE = 2 * 1024 * 1024
_PAGE = 64 * 1024


class Blocks:
    """A store of memory blocks; safe from many threads."""

    def __init__(self, keep: int = KEEP) -> None:
        self.keep = keep
        self._free: list[mmap.mmap] = []
        self._lock = threading.Lock()
        # Given back by finalizers, which may run anywhere, in a garbage collection inside `_take`
        # too: so they may not wait for the lock.
        self._returned: deque[mmap.mmap] = deque()

    def array(self, shape: tuple[int, ...], dtype: DTypeLike = np.float32, *, zero: bool = False) -> NDArray:  # type: ignore[type-arg]
        """Uninitialised (or zero) C-contiguous array; its memory returns when no view is left."""
        dtype = np.dtype(dtype)
        count = math.prod(shape)
        if count * dtype.itemsize < SMALL:
            return (np.zeros if zero else np.empty)(shape, dtype)
        block, used = self._take(_rounded(count * dtype.itemsize))
        # Every view of this array refers to it, whatever is made of the view.
        flat = np.frombuffer(block, dtype, count)
        weakref.finalize(flat, self._returned.append, block).atexit = False
        if zero and used:
            flat[:] = 0
        return flat.reshape(shape)

    def _take(self, size: int) -> tuple[mmap.mmap, bool]:
        """A block of exactly this size, and whether it was used before (a new one holds zeros)."""
        with self._lock:
            while self._returned:
                self._free.append(self._returned.popleft())
            found = next((b for b in reversed(self._free) if len(b) == size), None)
            if found is not None:
                self._free.remove(found)
            kept = sum(len(b) for b in self._free)
            while self._free and kept > self.keep:
                kept -= len(self._free.pop(0))
        if found is not None:
            return found, True
        block = mmap.mmap(-1, size, flags=mmap.MAP_PRIVATE | mmap.MAP_ANONYMOUS)
        if size >= _HUGE_PAGE:
            block.madvise(mmap.MADV_HUGEPAGE)
        return block, False


def _rounded(size: int) -> int:
    """Up to a step of an eighth, so that pictures of nearly one size use the same blocks."""
    unit = max(_PAGE, 1 << (size.bit_length() - 4))
    if size >= 8 * _HUGE_PAGE:
        unit = max(unit, _HUGE_PAGE)
    return -(-size // unit) * unit


_blocks = Blocks()


def new_array(shape: tuple[int, ...], dtype: DTypeLike = np.float32, *, zero: bool = False) -> NDArray:  # type: ignore[type-arg]
    """Uninitialised (or zero) C-contiguous array from the process's store of blocks."""
    return _blocks.array(shape, dtype, zero=zero)
