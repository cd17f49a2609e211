"""The first picture of a scene should not wait for kernels to be read from the disk."""

from __future__ import annotations

import threading
from functools import cache

from neatveil.warm import warm_rendering


@cache
def warm_soon() -> None:
    """Begin it in the background, once in a process."""
    threading.Thread(target=warm_rendering, name="warm-rendering", daemon=True).start()
