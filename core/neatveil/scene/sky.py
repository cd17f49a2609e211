"""The environment: a picture all around the scene, as far away as anything can be.

Laid out by latitude and longitude: the middle of the picture lies along +z, +x a quarter to its left,
the upper edge is +y. Source: OpenEXR, ImfEnvmap.h [OpenEXR].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from .model import Floats


@dataclass(frozen=True)
class Sky:
    """``pixels`` are ``(H, W, 3)`` in light, without alpha.

    Attributes
    ----------
    turn : radians that the picture is turned by about +y, counter-clockwise seen from above.
    """

    pixels: Floats
    strength: float = 1.0
    turn: float = 0.0

    def light(self, ways: Floats) -> Floats:
        """``(N, 3)``: what comes from the given ways, ``(N, 3)`` of any length."""
        out = new_array((len(ways), 3))
        look_up(self.pixels, np.float32(self.strength), np.float32(self.turn), ways, out)
        return out


@kernel
def look_up(pixels, strength, turn, ways, out):  # type: ignore[no-untyped-def]
    """Bilinear; the picture goes on across its left and right edge."""
    height, width = pixels.shape[0], pixels.shape[1]
    for i in range(out.shape[0]):
        x, y, z = ways[i, 0], ways[i, 1], ways[i, 2]
        longitude = np.arctan2(x, z) - turn
        latitude = np.arctan2(y, np.sqrt(x * x + z * z))
        across = (np.float32(0.5) - longitude / np.float32(2 * np.pi)) * width - np.float32(0.5)
        down = (np.float32(0.5) - latitude / np.float32(np.pi)) * height - np.float32(0.5)
        left, top = np.floor(across), np.floor(down)
        a, b = across - left, down - top
        x0, x1 = np.int64(left) % width, (np.int64(left) + 1) % width
        y0 = min(max(np.int64(top), 0), height - 1)
        y1 = min(max(np.int64(top) + 1, 0), height - 1)
        for k in range(3):
            upper = pixels[y0, x0, k] * (1 - a) + pixels[y0, x1, k] * a
            lower = pixels[y1, x0, k] * (1 - a) + pixels[y1, x1, k] * a
            out[i, k] = strength * (upper * (1 - b) + lower * b)
