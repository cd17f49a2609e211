"""The plate that the scene stands in front of, seen by the camera alone."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from .lens import Lens
from .model import Floats


@dataclass(frozen=True)
class Plate:
    """``pixels`` are ``(H, W, 3)`` in light; they fill the frame."""

    pixels: Floats

    def behind(self, lens: Lens, ways: Floats) -> Floats:
        """``(N, 3)``: what lies where ways ``(N, 3)`` point, as if the plate were infinitely far away.

        Beyond the frame its edge goes on.
        """
        out = new_array((len(ways), 3))
        height, width = self.pixels.shape[:2]
        to_plate = np.diag([width / lens.width, height / lens.height, 1.0]) @ lens.matrix[:, :3]
        look_behind(self.pixels, to_plate, ways, out)
        return out


@kernel
def look_behind(pixels, to_plate, ways, out):  # type: ignore[no-untyped-def]
    height, width = pixels.shape[0], pixels.shape[1]
    for i in range(out.shape[0]):
        x, y, z = np.float64(ways[i, 0]), np.float64(ways[i, 1]), np.float64(ways[i, 2])
        deep = max(to_plate[2, 0] * x + to_plate[2, 1] * y + to_plate[2, 2] * z, 1e-6)
        across = (to_plate[0, 0] * x + to_plate[0, 1] * y + to_plate[0, 2] * z) / deep - 0.5
        down = (to_plate[1, 0] * x + to_plate[1, 1] * y + to_plate[1, 2] * z) / deep - 0.5
        across = min(max(across, 0.0), width - 1.0)
        down = min(max(down, 0.0), height - 1.0)
        x0, y0 = np.int64(across), np.int64(down)
        x1, y1 = min(x0 + 1, width - 1), min(y0 + 1, height - 1)
        a, b = np.float32(across - x0), np.float32(down - y0)
        for k in range(3):
            upper = pixels[y0, x0, k] * (1 - a) + pixels[y0, x1, k] * a
            lower = pixels[y1, x0, k] * (1 - a) + pixels[y1, x1, k] * a
            out[i, k] = upper * (1 - b) + lower * b
