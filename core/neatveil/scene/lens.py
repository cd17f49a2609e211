"""The camera's lens: from points in the world to pixels, and from pixels to rays.

Pixels are measured from the frame's upper left corner, x to the right, y down; the centre of the
first pixel is (0.5, 0.5). Source: glTF 2.0, 3.10.3 projection matrices [glTF2].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .model import Camera, Floats
from .motion import Matrix


@dataclass(frozen=True)
class Lens:
    """A camera at one moment, for a picture of one size.

    Attributes
    ----------
    place : camera to world, ``(4, 4)``; scale is taken out, as the standard asks.
    width, height : pixels.
    spread : half the frame's width and height at distance 1 along the axis.
    """

    place: Matrix
    width: int
    height: int
    spread: tuple[float, float]
    near: float
    far: float | None

    @classmethod
    def of(cls, camera: Camera, place: Matrix, width: int, height: int) -> Lens:
        """The frame is as high as the camera says; its width follows from the picture's shape."""
        up = float(np.tan(camera.yfov / 2))
        return cls(_unscaled(place), width, height, (up * width / height, up), camera.near, camera.far)

    @property
    def eye(self) -> NDArray[np.float64]:
        return self.place[:3, 3]

    def project(self, points: NDArray[np.floating]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """``(N, 3)`` world points to ``(N, 2)`` pixels, and their distance along the axis ``(N,)``.

        Points behind the camera have distances below 0 and pixels without meaning.
        """
        local = (points.astype(np.float64) - self.eye) @ self.place[:3, :3]
        depth = -local[:, 2]
        safe = np.where(depth == 0, np.nan, depth)
        x = (local[:, 0] / safe / self.spread[0] + 1) * self.width / 2
        y = (1 - local[:, 1] / safe / self.spread[1]) * self.height / 2
        return np.stack([x, y], axis=1), depth

    def rays(self, pixels: NDArray[np.floating]) -> tuple[Floats, Floats]:
        """Origins and directions ``(N, 3)`` through ``(N, 2)`` pixels.

        Directions are one unit long along the camera's axis, so that a ray's length to a point is
        the point's distance along the axis.
        """
        x = (pixels[:, 0] * 2 / self.width - 1) * self.spread[0]
        y = (1 - pixels[:, 1] * 2 / self.height) * self.spread[1]
        local = np.stack([x, y, np.full(len(x), -1.0)], axis=1)
        directions = (local @ self.place[:3, :3].T).astype(np.float32)
        origins = np.broadcast_to(self.eye.astype(np.float32), directions.shape)
        return np.ascontiguousarray(origins), directions


def _unscaled(place: Matrix) -> Matrix:
    matrix = place.copy()
    matrix[:3, :3] /= np.linalg.norm(matrix[:3, :3], axis=0)
    return matrix
