"""Work done ahead of the one who takes its results, in order."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

from ..errors import Cancelled

T = TypeVar("T")


def ahead(work: Callable[[int], T], items: Iterable[int], threads: int) -> Iterator[T]:
    """Results in order, with as many computed ahead as there are threads."""
    waiting: deque[Future[T]] = deque()
    with ThreadPoolExecutor(threads, thread_name_prefix="neatveil-frame") as pool:
        try:
            for item in items:
                waiting.append(pool.submit(work, item))
                if len(waiting) > threads:
                    yield waiting.popleft().result()
            while waiting:
                yield waiting.popleft().result()
        finally:
            for future in waiting:
                future.cancel()


def unless(cancelled: Callable[[], bool] | None, items: Iterable[int], words: str) -> Iterator[int]:
    """The items, until ``cancelled`` says yes: `Cancelled` then. Asked before each, by the caller."""
    for item in items:
        if cancelled is not None and cancelled():
            raise Cancelled(words)
        yield item
