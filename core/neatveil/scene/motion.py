"""Where everything is at a moment: sampled motions, and the nodes' places in the world.

Source: glTF 2.0, appendix C animation sampler interpolation modes; 3.5.3 transformations [glTF2].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from .model import Motion, Node, Scene

Matrix = NDArray[np.float64]


def value_at(motion: Motion, seconds: float) -> NDArray[np.float64]:
    """The value of a motion; before its first and after its last time it rests."""
    times, values = motion.times.astype(np.float64), motion.values.astype(np.float64)
    middle = values[:, 1] if motion.interpolation == "CUBICSPLINE" else values
    if seconds <= times[0] or len(times) == 1:
        return _turned(motion, middle[0])
    if seconds >= times[-1]:
        return _turned(motion, middle[-1])
    k = int(np.searchsorted(times, seconds, side="right")) - 1
    span = times[k + 1] - times[k]
    t = (seconds - times[k]) / span
    if motion.interpolation == "STEP":
        return _turned(motion, middle[k])
    if motion.interpolation == "LINEAR":
        if motion.path == "rotation":
            return _slerp(middle[k], middle[k + 1], t)
        mixed: NDArray[np.float64] = middle[k] * (1 - t) + middle[k + 1] * t
        return mixed
    out, into = values[k, 2], values[k + 1, 0]
    t2, t3 = t * t, t * t * t
    return _turned(
        motion,
        (2 * t3 - 3 * t2 + 1) * middle[k] + span * (t3 - 2 * t2 + t) * out
        + (-2 * t3 + 3 * t2) * middle[k + 1] + span * (t3 - t2) * into,
    )  # fmt: skip


def _turned(motion: Motion, value: NDArray[np.float64]) -> NDArray[np.float64]:
    """Rotations as quaternions of length 1."""
    if motion.path != "rotation":
        return value
    unit: NDArray[np.float64] = value / np.linalg.norm(value)
    return unit


def _slerp(a: NDArray[np.float64], b: NDArray[np.float64], t: float) -> NDArray[np.float64]:
    """Along the shorter arc, at an even pace (appendix C.4)."""
    dot = float(a @ b)
    side = -1.0 if dot < 0 else 1.0
    angle = np.arccos(min(1.0, abs(dot)))
    if angle < 1e-6:
        mixed = a * (1 - t) + side * b * t
    else:
        mixed = (np.sin(angle * (1 - t)) * a + side * np.sin(angle * t) * b) / np.sin(angle)
    unit: NDArray[np.float64] = mixed / np.linalg.norm(mixed)
    return unit


def matrix_of(
    translation: NDArray[np.float64], rotation: NDArray[np.float64], scale: NDArray[np.float64]
) -> Matrix:
    """``(4, 4)``: scaled, then turned by the quaternion x, y, z, w, then moved."""
    x, y, z, w = rotation / np.linalg.norm(rotation)
    turn = np.array(
        [[1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
         [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
         [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)]]
    )  # fmt: skip
    matrix = np.eye(4)
    matrix[:3, :3] = turn * scale
    matrix[:3, 3] = translation
    return matrix


def places_at(scene: Scene, seconds: float) -> list[Matrix]:
    """Each node's matrix from its own space to the world's, ``(4, 4)``."""
    moved: dict[int, dict[str, NDArray[np.float64]]] = {}
    for motion in scene.motions:
        moved.setdefault(motion.node, {})[motion.path] = value_at(motion, seconds)
    places: list[Matrix] = []
    for number, node in enumerate(scene.nodes):
        own = _own_matrix(node, moved.get(number, {}))
        places.append(own if node.parent is None else places[node.parent] @ own)
    return places


def _own_matrix(node: Node, moved: dict[str, NDArray[np.float64]]) -> Matrix:
    if node.matrix is not None and not moved:
        return node.matrix
    return matrix_of(
        moved.get("translation", np.array(node.translation)),
        moved.get("rotation", np.array(node.rotation)),
        moved.get("scale", np.array(node.scale)),
    )
