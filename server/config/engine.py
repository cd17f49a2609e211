"""The picture engine of this process: one evaluator over limited decoding processes, and its threads."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import TypeVar

from django.conf import settings
from neatveil.errors import Cancelled
from neatveil.evaluate import Evaluator
from neatveil.io.isolated import IsolatedDecoder
from neatveil.numeric.threads import workers

T = TypeVar("T")


@cache
def decoder() -> IsolatedDecoder:
    return IsolatedDecoder()


@cache
def evaluator() -> Evaluator:
    return Evaluator(decoder(), settings.CACHE_BYTES)


@cache
def _threads() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(workers(), thread_name_prefix="picture")


async def draw(work: Callable[[Callable[[], bool]], T]) -> T:
    """``work(cancelled)`` on a picture thread; ``cancelled`` says yes once the asker has gone away."""
    gone = threading.Event()

    def run() -> T:
        if gone.is_set():
            raise Cancelled("The picture is not wanted any more.")
        return work(gone.is_set)

    try:
        return await asyncio.get_running_loop().run_in_executor(_threads(), run)
    except asyncio.CancelledError:
        gone.set()
        raise
