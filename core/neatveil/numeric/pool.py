"""One pool of threads, and strips of rows small enough for a processor's cache.

NumPy, OpenCV and ``nogil`` Numba kernels release the interpreter lock, so strips run in parallel.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from functools import cache
from itertools import count
from typing import TypeVar

import cv2

from .threads import workers

Item = TypeVar("Item")

# OpenCV's own threads would compete with ours: each call works in the thread that makes it.
cv2.setNumThreads(1)

#: Bytes of one plane in a strip. Smaller ones fit the cache better and cost more in calls: this
#: measured best, for chains and for the viewer.
STRIP_BYTES = 256 * 1024


@cache
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(max(1, workers() - 1), thread_name_prefix="neatveil-strip")


_inside = threading.local()


@contextmanager
def in_this_thread() -> Iterator[None]:
    """Strips begun in this block are not shared out: for threads that each have a whole frame to do."""
    before = getattr(_inside, "strip", False)
    _inside.strip = True
    try:
        yield
    finally:
        _inside.strip = before


def for_strips(height: int, width: int, work: Callable[[int, int], None]) -> None:
    """Call ``work(first_row, end_row)`` for strips that cover ``height`` rows, in parallel.

    The calling thread takes part, so nested calls cannot wait for each other; a nested call runs
    in its own thread alone. The first exception is raised after all strips have ended.
    """
    if height <= 0 or width <= 0:
        return
    rows = max(1, STRIP_BYTES // (4 * width))
    for_each(range(0, height, rows), lambda y0: work(y0, min(height, y0 + rows)))


def for_each(items: Sequence[Item], work: Callable[[Item], None], *, coarse: bool = False) -> None:
    """Call ``work`` with every item, in parallel and in about their order; as `for_strips`.

    ``coarse``: items are large and unequal, so strips within them are shared out too: to threads that have
    no item left.
    """
    if len(items) <= 1 or workers() == 1 or getattr(_inside, "strip", False):
        for item in items:
            work(item)
        return
    tickets = count()

    def run() -> None:
        _inside.strip = not coarse
        try:
            while (i := next(tickets)) < len(items):
                work(items[i])
        finally:
            _inside.strip = False

    others = [_pool().submit(run) for _ in range(min(workers(), len(items)) - 1)]
    try:
        run()
    finally:
        for other in others:
            if not other.cancel():
                other.result()
