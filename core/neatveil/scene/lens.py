"""The camera's lens: from points in the world to pixels, and from pixels to rays.

Pixels are measured from the frame's upper left corner, x to the right, y down; the centre of the
first pixel is (0.5, 0.5). Source: glTF 2.0, 3.10.3 projection matrices [glTF2].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.camera import projection, spread_of
from ..numeric.jit import kernel
from .model import Camera, Floats
from .motion import Matrix
from .samples import Grid

#: Salt of the numbers by which the lens is sampled.
_LENS = 3


@dataclass(frozen=True)
class Focus:
    """Depth of field: the distance along the axis that is sharp, and the lens's diameter, in scene units."""

    distance: float
    opening: float


@dataclass(frozen=True)
class Lens:
    """A camera at one moment, for a picture of one size.

    Attributes
    ----------
    place : camera to world, ``(4, 4)``; scale is taken out, as the standard asks.
    width, height : pixels.
    spread : half the frame's width and height at distance 1 along the axis.
    focus : where a lens of some size is sharp; None: everything is.
    """

    place: Matrix
    width: int
    height: int
    spread: tuple[float, float]
    near: float
    far: float | None
    focus: Focus | None = None

    @classmethod
    def of(cls, camera: Camera, place: Matrix, width: int, height: int, focus: Focus | None = None) -> Lens:
        """The frame is as high as the camera says; its width follows from the picture's shape."""
        spread = spread_of(camera.yfov, width, height)
        return cls(_unscaled(place), width, height, spread, camera.near, camera.far, focus)

    @property
    def eye(self) -> NDArray[np.float64]:
        return self.place[:3, 3]

    @property
    def matrix(self) -> Matrix:
        """``(3, 4)``: a world point to x and y in pixels, both times its depth, and its depth."""
        return projection(self.place, self.width, self.height, self.spread)

    def project(self, points: NDArray[np.floating]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """``(N, 3)`` world points to ``(N, 2)`` pixels, and their distance along the axis ``(N,)``.

        Points behind the camera have distances below 0 and pixels without meaning.
        """
        found = points.astype(np.float64) @ self.matrix[:, :3].T + self.matrix[:, 3]
        depth = found[:, 2]
        return found[:, :2] / np.where(depth == 0, np.nan, depth)[:, None], depth

    def rays(self, offsets: Floats, grid: Grid) -> tuple[Floats, Floats]:
        """Origins and directions, ``(N, 3)`` each, of samples.

        ``offsets`` are ``(rows, width, samples, 2)`` pixels from the pixels' centres. Directions
        are one unit long along the camera's axis, so that a ray's length to a point is the point's
        distance along the axis.
        """
        origins, directions = new_array((grid.size, 3)), new_array((grid.size, 3))
        pixel = (2 * self.spread[0] / self.width, -2 * self.spread[1] / self.height, -1.0)
        to_world = (self.place[:3, :3] * pixel).astype(np.float32)
        middle = np.array([self.width / 2, self.height / 2], np.float32)
        eye = self.eye.astype(np.float32)
        fill_rays(offsets, grid.x0, grid.y0, to_world, middle, eye, origins, directions)
        if self.focus is not None:
            ways = self.place[:3, :2].T.astype(np.float32)
            size, far = np.float32(self.focus.opening / 2), np.float32(self.focus.distance)
            open_lens(grid.pairs(_LENS), ways, size, far, origins, directions)
        return origins, directions


@kernel
def fill_rays(offsets, x0, y0, to_world, middle, eye, origins, directions):  # type: ignore[no-untyped-def]
    half = np.float32(0.5)
    n = 0
    for y in range(offsets.shape[0]):
        for x in range(offsets.shape[1]):
            for s in range(offsets.shape[2]):
                # pixels from the frame's middle
                a = np.float32(x0 + x) + half + offsets[y, x, s, 0] - middle[0]
                b = np.float32(y0 + y) + half + offsets[y, x, s, 1] - middle[1]
                for i in range(3):
                    origins[n, i] = eye[i]
                    directions[n, i] = to_world[i, 0] * a + to_world[i, 1] * b + to_world[i, 2]
                n += 1


@kernel
def open_lens(pairs, ways, size, far, origins, directions):  # type: ignore[no-untyped-def]
    """Rays from all over a thin lens to where each would meet the plane that is sharp, in place."""
    for i in range(pairs.shape[0]):
        reach = size * np.sqrt(pairs[i, 0])
        turn = np.float32(2 * np.pi) * pairs[i, 1]
        a, b = reach * np.cos(turn), reach * np.sin(turn)
        for k in range(3):
            shift = a * ways[0, k] + b * ways[1, k]
            origins[i, k] += shift
            directions[i, k] -= shift / far


def _unscaled(place: Matrix) -> Matrix:
    matrix = place.copy()
    matrix[:3, :3] /= np.linalg.norm(matrix[:3, :3], axis=0)
    return matrix
