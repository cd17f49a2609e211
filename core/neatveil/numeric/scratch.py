"""Memory that a thread works in and never gives away."""

from __future__ import annotations

import threading

import numpy as np
from numpy.typing import NDArray

_held = threading.local()


def scratch_planes(name: str, size: int) -> list[NDArray[np.float32]]:
    """Four flat planes of this thread under a name; who asks for them next under it is given the same."""
    planes = getattr(_held, name, None)
    if planes is None or planes[0].size < size:
        planes = [np.empty(size, np.float32) for _ in range(4)]
        setattr(_held, name, planes)
    return [plane[:size] for plane in planes]
