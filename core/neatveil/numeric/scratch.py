"""Memory that a thread works in and never gives away."""

from __future__ import annotations

import threading

import numpy as np
from numpy.typing import NDArray

_held = threading.local()


def scratch_planes(name: str, size: int) -> list[NDArray[np.float32]]:
    """Four flat planes of this thread under a name; who asks for them next under it is given the same."""
    held = getattr(_held, name, None)
    if held is None or held[0].size < size:
        held = [np.empty(size, np.float32) for _ in range(4)]
        setattr(_held, name, held)
    return [plane[:size] for plane in held]
