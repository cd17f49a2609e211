"""The picture engine of this process: one evaluator over limited decoding processes."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cache

from django.conf import settings
from neatveil.errors import Cancelled
from neatveil.evaluate import Evaluator
from neatveil.io.isolated import IsolatedDecoder
from neatveil.numeric.threads import workers

#: Viewers whose newest request is remembered.
VIEWERS = 500


@cache
def decoder() -> IsolatedDecoder:
    return IsolatedDecoder()


@cache
def evaluator() -> Evaluator:
    return Evaluator(decoder(), settings.CACHE_BYTES)


_drawing = threading.BoundedSemaphore(workers())
_newest: dict[str, int] = {}
_lock = threading.Lock()


@contextmanager
def drawing(viewer: str, turn: int) -> Iterator[Callable[[], bool]]:
    """A place among the few pictures drawn at once.

    Gives a function that says yes once the same viewer has asked for something newer; whoever is
    out of date by the time it is their turn gets `Cancelled`. An empty viewer is never out of date.
    """
    if viewer:
        with _lock:
            _newest[viewer] = max(turn, _newest.pop(viewer, 0))
            while len(_newest) > VIEWERS:
                _newest.pop(next(iter(_newest)))

    def outdated() -> bool:
        return bool(viewer) and _newest.get(viewer, turn) > turn

    with _drawing:
        if outdated():
            raise Cancelled("The picture is not wanted any more.")
        yield outdated
