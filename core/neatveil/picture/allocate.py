"""Memory for planes: one block a picture.

Four planes cut from one block get huge pages where four small ones of their own would not.
"""

from __future__ import annotations

from collections.abc import Iterable

from ..numeric.blocks import new_array
from .picture import Plane


def new_planes(names: Iterable[str], height: int, width: int, *, zero: bool = False) -> dict[str, Plane]:
    """Uninitialised (or zero) C-contiguous float32 planes ``(height, width)`` by name."""
    names = tuple(names)
    block = new_array((len(names), height, width), zero=zero)
    return {n: block[i] for i, n in enumerate(names)}
