"""The application with the demo, for cases that are measured in a browser."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager

from application import demo_for_a_while


@contextmanager
def demo_running() -> Iterator[tuple[str, str]]:
    """Its address and the demo's password; one that a test has running already is taken as it is."""
    if address := os.environ.get("NEATVEIL_BENCH_ADDRESS"):
        yield address, os.environ["NEATVEIL_BENCH_PASSWORD"]
        return
    with demo_for_a_while(12) as running:
        yield running
