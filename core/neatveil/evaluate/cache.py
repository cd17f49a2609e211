"""Results kept by content key, bounded in bytes, never computed twice at once."""

from __future__ import annotations

import hashlib
import json
import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, Generic, TypeVar

T = TypeVar("T")


def content_key(*parts: Any) -> str:
    """A key from everything that makes a result: equal parts, equal key."""
    text = json.dumps(parts, sort_keys=True, default=str, separators=(",", ":"))
    return hashlib.blake2b(text.encode(), digest_size=16).hexdigest()


class ByteCache(Generic[T]):
    """Least recently used results go first when the bytes are over the limit."""

    def __init__(self, limit: int, size: Callable[[T], int]) -> None:
        self.limit = limit
        self._size = size
        self._kept: OrderedDict[str, T] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()
        self._making: dict[str, threading.Lock] = {}

    @property
    def bytes(self) -> int:
        return self._bytes

    def peek(self, key: str) -> T | None:
        """The kept result, or None; counts as use."""
        with self._lock:
            value = self._kept.get(key)
            if value is not None:
                self._kept.move_to_end(key)
            return value

    def put(self, key: str, value: T) -> None:
        size = self._size(value)
        with self._lock:
            old = self._kept.pop(key, None)
            if old is not None:
                self._bytes -= self._size(old)
            if size > self.limit:
                return
            self._kept[key] = value
            self._bytes += size
            while self._bytes > self.limit:
                _, gone = self._kept.popitem(last=False)
                self._bytes -= self._size(gone)

    def get(self, key: str, make: Callable[[], T]) -> T:
        """The kept result, or ``make()``; whoever asks meanwhile for the same key waits for it."""
        value = self.peek(key)
        if value is not None:
            return value
        with self._lock:
            lock = self._making.setdefault(key, threading.Lock())
        with lock:
            value = self.peek(key)
            if value is None:
                value = make()
                self.put(key, value)
        with self._lock:
            self._making.pop(key, None)
        return value
