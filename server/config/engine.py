"""The picture engine of this process: one evaluator over limited decoding processes."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path

from django.conf import settings
from neatveil.errors import Cancelled
from neatveil.evaluate import Evaluator
from neatveil.evaluate.lasting import LastingPlanes
from neatveil.io.isolated import IsolatedDecoder
from neatveil.numeric.threads import workers

from .newest import NewestRequests


@cache
def decoder() -> IsolatedDecoder:
    return IsolatedDecoder()


@cache
def evaluator() -> Evaluator:
    kept = LastingPlanes(lambda: Path(settings.MEDIA) / "edges", settings.EDGE_BYTES)
    return Evaluator(decoder(), settings.CACHE_BYTES, kept)


@cache
def newest_requests() -> NewestRequests:
    return NewestRequests(settings.VAR / "run" / "newest-requests")


def _never() -> bool:
    return False


#: Small pictures drawn at once: one place is left for the picture that is looked at.
_cards = threading.BoundedSemaphore(max(1, workers() - 1))
_drawing = threading.BoundedSemaphore(workers())


@contextmanager
def drawing(viewer: str, sequence: int) -> Iterator[Callable[[], bool]]:
    """A place among the few pictures drawn at once.

    Gives a function that says yes once the same viewer has asked for something newer; whoever is
    out of date once there is a place gets `Cancelled`. An empty viewer is never out of date.
    """
    outdated = newest_requests().note(viewer, sequence) if viewer else _never
    with _drawing:
        if outdated():
            raise Cancelled("The picture is not wanted any more.")
        yield outdated


@contextmanager
def drawing_card() -> Iterator[None]:
    """A place to draw a small picture: a menu asks for many at once, and the viewer goes first."""
    with _cards, drawing("", 0):
        yield
