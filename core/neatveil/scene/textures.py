"""Looking a texture up at places on its picture."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from .model import Floats, Texture


def looked_up(texture: Texture, uv: Floats) -> Floats:
    """``(N, 4)`` of a texture at ``(N, 2)`` places; (0, 0) is its first pixel's outer corner.

    Source: glTF 2.0, 3.8.4 samplers [glTF2].
    """
    height, width = texture.pixels.shape[:2]
    x, y = uv[:, 0] * width, uv[:, 1] * height
    if texture.nearest:
        column, row = (_wrapped(np.floor(v), n, w) for v, n, w in _axes(texture, x, y))
        return texture.pixels[row, column]
    x, y = x - 0.5, y - 0.5
    left, top = np.floor(x), np.floor(y)
    a, b = (x - left)[:, None], (y - top)[:, None]
    x0, y0 = (_wrapped(v, n, w) for v, n, w in _axes(texture, left, top))
    x1, y1 = (_wrapped(v, n, w) for v, n, w in _axes(texture, left + 1, top + 1))
    p = texture.pixels
    upper = p[y0, x0] * (1 - a) + p[y0, x1] * a
    lower = p[y1, x0] * (1 - a) + p[y1, x1] * a
    blended: Floats = (upper * (1 - b) + lower * b).astype(np.float32)
    return blended


def _axes(texture: Texture, x: Floats, y: Floats) -> list[tuple[Floats, int, str]]:
    height, width = texture.pixels.shape[:2]
    return [(x, width, texture.wrap[0]), (y, height, texture.wrap[1])]


def _wrapped(place: Floats, size: int, wrap: str) -> NDArray[np.int64]:
    """Whole pixels inside 0..size by how the texture goes on beyond its edge."""
    number = place.astype(np.int64)
    if wrap == "clamp":
        return np.clip(number, 0, size - 1)
    if wrap == "mirror":
        turn = number % (2 * size)
        mirrored: NDArray[np.int64] = np.where(turn < size, turn, 2 * size - 1 - turn)
        return mirrored
    return number % size
