"""Results kept by content key, bounded in bytes, never computed twice at once."""

from __future__ import annotations

import hashlib
import json
import threading
from collections import OrderedDict
from collections.abc import Callable
from itertools import islice
from typing import Any, Generic, TypeVar

T = TypeVar("T")

#: How many of the last used results are measured again when one is put in.
RECENT = 32


def content_key(*parts: Any) -> str:
    """A key from everything that makes a result: equal parts, equal key."""
    text = json.dumps(parts, sort_keys=True, default=str, separators=(",", ":"))
    return hashlib.blake2b(text.encode(), digest_size=16).hexdigest()


class ByteCache(Generic[T]):
    """Least recently used results go first when the bytes are over the limit."""

    def __init__(self, limit: int, size: Callable[[T], int]) -> None:
        self.limit = limit
        self._size = size
        self._kept: OrderedDict[str, tuple[T, int]] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()
        self._making: dict[str, threading.Lock] = {}

    @property
    def bytes(self) -> int:
        return self._bytes

    def peek(self, key: str) -> T | None:
        """The kept result, or None; counts as use."""
        with self._lock:
            row = self._kept.get(key)
            if row is None:
                return None
            self._kept.move_to_end(key)
            self._measure(key)
            return row[0]

    def put(self, key: str, value: T) -> None:
        size = self._size(value)
        with self._lock:
            self._remove(key)
            if size > self.limit:
                return
            self._kept[key] = (value, size)
            self._bytes += size
            for recent in list(islice(reversed(self._kept), RECENT)):
                self._measure(recent)
            while self._bytes > self.limit:
                self._remove(next(iter(self._kept)))

    def take(self, key: str) -> T | None:
        """The kept result, or None; it is not kept any more, so that it may be changed."""
        with self._lock:
            row = self._kept.get(key)
            self._remove(key)
            return None if row is None else row[0]

    def drop(self, key: str) -> None:
        """Forget a result, if it is kept."""
        with self._lock:
            self._remove(key)

    def _measure(self, key: str) -> None:
        """A result may have grown since it was put in: pictures keep what resampling needs of them."""
        value, before = self._kept[key]
        size = self._size(value)
        self._kept[key] = (value, size)
        self._bytes += size - before

    def _remove(self, key: str) -> None:
        row = self._kept.pop(key, None)
        if row is not None:
            self._bytes -= row[1]

    def get(self, key: str, make: Callable[[], T], keep: Callable[[], bool] | None = None) -> T:
        """The kept result, or ``make()``; whoever asks meanwhile for the same key waits for it.

        ``keep``: asked once it is made, whether it is to be kept.
        """
        value = self.peek(key)
        if value is not None:
            return value
        with self._lock:
            lock = self._making.setdefault(key, threading.Lock())
        try:
            with lock:
                value = self.peek(key)
                if value is None:
                    value = make()
                    if keep is None or keep():
                        self.put(key, value)
        finally:
            with self._lock:
                self._making.pop(key, None)
        return value
