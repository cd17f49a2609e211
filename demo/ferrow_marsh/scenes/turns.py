"""Turns as quaternions x, y, z, w."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def towards(way: list[float]) -> list[float]:
    """The turn that points -z along a way, as lights and cameras look."""
    unit = np.array(way) / np.linalg.norm(way)
    axis = np.cross([0, 0, -1], unit)
    length = np.linalg.norm(axis)
    if length < 1e-9:
        return [0.0, 0.0, 0.0, 1.0] if unit[2] < 0 else [0.0, 1.0, 0.0, 0.0]
    angle = np.arccos(np.clip(-unit[2], -1, 1))
    return [*(axis / length * np.sin(angle / 2)).tolist(), float(np.cos(angle / 2))]


def looking(at: list[float], eye: list[float]) -> list[float]:
    """The turn of a camera that looks from one place at another, upright."""
    back = np.array(eye, float) - np.array(at, float)
    back /= np.linalg.norm(back)
    right = np.cross([0, 1, 0], back)
    right /= np.linalg.norm(right)
    up = np.cross(back, right)
    m = np.stack([right, up, back], axis=1)
    w = np.sqrt(max(0.0, 1 + m.trace())) / 2
    x, y, z = m[2, 1] - m[1, 2], m[0, 2] - m[2, 0], m[1, 0] - m[0, 1]
    return [float(x / (4 * w)), float(y / (4 * w)), float(z / (4 * w)), float(w)]


def about(axis: list[float], angles: NDArray[np.float64]) -> NDArray[np.float64]:
    """Quaternions ``(N, 4)`` of angles in radians about one axis."""
    unit = np.array(axis, float) / np.linalg.norm(axis)
    half = np.asarray(angles)[:, None] / 2
    return np.concatenate([unit * np.sin(half), np.cos(half)], axis=1)


def times(a: NDArray[np.float64], b: NDArray[np.float64]) -> NDArray[np.float64]:
    """Quaternion products, row by row: first b, then a."""
    av, aw, bv, bw = a[:, :3], a[:, 3:], b[:, :3], b[:, 3:]
    v = aw * bv + bw * av + np.cross(av, bv)
    return np.concatenate([v, aw * bw - (av * bv).sum(axis=1, keepdims=True)], axis=1)
