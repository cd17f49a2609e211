"""How many threads the arithmetic and the codecs may use."""

from __future__ import annotations

import os


def workers() -> int:
    """NEATVEIL_THREADS, or the number of processors this process may use."""
    return int(os.environ.get("NEATVEIL_THREADS") or len(os.sched_getaffinity(0)))
