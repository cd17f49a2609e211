"""A camera's geometry: where something faces, and where a point of the world is seen.

Sources: glTF 2.0, 3.10.3 projection matrices, and its axes: +Y up, +Z to the front, a camera looks along -Z
[glTF2].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]


def facing(azimuth: float, elevation: float, roll: float) -> Matrix:
    """``(3, 3)``: right, up and back of something whose back points to an azimuth and an elevation.

    So a camera that looks at the middle, or a card that is seen from there. Degrees: azimuth 0 is +Z and
    grows to +X, elevation grows to +Y; roll turns clockwise, seen against the back.
    """
    a, e, r = np.radians([azimuth, elevation, roll])
    right = np.array([np.cos(a), 0.0, -np.sin(a)])
    back = np.array([np.sin(a) * np.cos(e), np.sin(e), np.cos(a) * np.cos(e)])
    up = np.cross(back, right)
    found: Matrix = np.stack(
        [right * np.cos(r) - up * np.sin(r), right * np.sin(r) + up * np.cos(r), back], axis=1
    )
    return found


def spread_of(yfov: float, width: int, height: int) -> tuple[float, float]:
    """Half the frame's width and height at distance 1: as high as the angle says, as wide as the picture."""
    up = float(np.tan(yfov / 2))
    return up * width / height, up


def projection(place: Matrix, width: int, height: int, spread: tuple[float, float]) -> Matrix:
    """``(3, 4)``: a world point to x and y in pixels, both times its depth, and its depth.

    ``place``: ``(4, 4)`` or ``(3, 4)``, camera to world without scale. Pixels are measured from the frame's
    upper left corner, y down.
    """
    turn, eye = place[:3, :3], place[:3, 3]
    inverse = np.eye(4)
    inverse[:3, :3] = turn.T
    inverse[:3, 3] = -turn.T @ eye
    w, h = width / 2, height / 2
    view = np.array([[w / spread[0], 0, -w, 0], [0, -h / spread[1], -h, 0], [0, 0, -1, 0]])
    matrix: Matrix = view @ inverse
    return matrix
