"""Shapes of triangles, with normals and UVs."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray


class Shape:
    """Triangles with normals and UVs."""

    def __init__(self, positions: Any, normals: Any, uv: Any, triangles: Any) -> None:
        self.positions, self.normals = np.asarray(positions, float), np.asarray(normals, float)
        self.uv, self.triangles = np.asarray(uv, float), np.asarray(triangles, int)

    def whole(self) -> Shape:
        """Without triangles of no area, as there are where a net's rows shrink to a point."""
        a, b, c = (self.positions[self.triangles[:, i]].astype(np.float32) for i in range(3))
        area = np.linalg.norm(np.cross(b - a, c - a), axis=1)
        return Shape(self.positions, self.normals, self.uv, self.triangles[area > 1e-12])

    def moved(self, x: float, y: float, z: float) -> Shape:
        return Shape(self.positions + np.array([x, y, z]), self.normals, self.uv, self.triangles)

    def scaled(self, x: float, y: float, z: float) -> Shape:
        size = np.array([x, y, z])
        normals = self.normals / size
        normals = normals / np.linalg.norm(normals, axis=1, keepdims=True)
        return Shape(self.positions * size, normals, self.uv, self.triangles)

    def turned(self, degrees: float, axis: str) -> Shape:
        """About one of the axes, by the right hand."""
        c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
        i, j = {"x": (1, 2), "y": (2, 0), "z": (0, 1)}[axis]
        turn = np.eye(3)
        turn[i, i], turn[i, j], turn[j, i], turn[j, j] = c, -s, s, c
        return Shape(self.positions @ turn.T, self.normals @ turn.T, self.uv, self.triangles)

    def __add__(self, other: Shape) -> Shape:
        return Shape(
            np.concatenate([self.positions, other.positions]), np.concatenate([self.normals, other.normals]),
            np.concatenate([self.uv, other.uv]),
            np.concatenate([self.triangles, other.triangles + len(self.positions)]),
        )  # fmt: skip


def box(width: float, height: float, depth: float) -> Shape:
    """Around the origin; each face carries the whole picture."""
    faces = []
    for axis, side in ((0, 1), (0, -1), (1, 1), (1, -1), (2, 1), (2, -1)):
        normal = np.zeros(3)
        normal[axis] = side
        right = np.array([0.0, 0, -side]) if axis == 0 else np.array([1.0, 0, 0])
        right = right if axis != 2 else np.array([float(side), 0, 0])
        up = np.cross(normal, right)
        corners = [normal + a * right + b * up for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
        scaled = np.array(corners) * [width / 2, height / 2, depth / 2]
        uv = [[0, 1], [1, 1], [1, 0], [0, 0]]
        faces.append(Shape(scaled, np.tile(normal, (4, 1)), uv, [[0, 1, 2], [0, 2, 3]]))
    return sum(faces[1:], faces[0])


def post(radius: float, height: float, sides: int = 24) -> Shape:
    """A standing cylinder around the origin, with a lid."""
    turn = np.linspace(0, 2 * np.pi, sides + 1)
    ring = np.stack([np.cos(turn), np.zeros(sides + 1), np.sin(turn)], axis=1)
    low, high = ring * radius - [0, height / 2, 0], ring * radius + [0, height / 2, 0]
    share = turn / (2 * np.pi)
    uv = np.concatenate([np.stack([share, np.ones(sides + 1)], 1), np.stack([share, np.zeros(sides + 1)], 1)])
    i = np.arange(sides)
    walls = np.concatenate(
        [np.stack([i, i + sides + 1, i + 1], 1), np.stack([i + 1, i + sides + 1, i + sides + 2], 1)]
    )
    wall = Shape(np.concatenate([low, high]), np.concatenate([ring, ring]), uv, walls)
    middle = np.concatenate([[[0, height / 2, 0]], high])
    lid = np.stack([np.zeros(sides, int), i + 2, i + 1], 1)
    flat = np.tile([0.0, 1, 0], (sides + 2, 1))
    return wall + Shape(middle, flat, middle[:, [0, 2]] / (2 * radius) + 0.5, lid)


def lathe(outline: list[tuple[float, float]], sides: int = 48) -> Shape:
    """A line of (radius, height), from below to above, turned about the upright axis."""
    line = np.array(outline, float)
    along = np.gradient(line, axis=0)
    outward = np.stack([along[:, 1], -along[:, 0]], axis=1)
    outward /= np.maximum(np.linalg.norm(outward, axis=1, keepdims=True), 1e-9)
    turn = np.linspace(0, 2 * np.pi, sides + 1)
    ring = np.stack([np.sin(turn), np.cos(turn)], axis=1)
    positions = _around(ring, line[:, 0], line[:, 1])
    normals = _around(ring, outward[:, 0], outward[:, 1])
    rows = len(line)
    u, v = np.meshgrid(turn / (2 * np.pi), np.linspace(1, 0, rows))
    return Shape(positions, normals, np.stack([u.ravel(), v.ravel()], 1), _grid(rows, sides + 1))


def _around(ring: NDArray[Any], out: NDArray[Any], up: NDArray[Any]) -> NDArray[Any]:
    rows, sides = len(out), len(ring)
    points = np.empty((rows, sides, 3))
    points[..., 0] = out[:, None] * ring[:, 0]
    points[..., 1] = up[:, None]
    points[..., 2] = out[:, None] * ring[:, 1]
    return points.reshape(-1, 3)


def _grid(rows: int, columns: int) -> NDArray[Any]:
    """Triangles of a net of vertices, counter-clockwise where it goes right and up."""
    i = np.arange(rows * columns).reshape(rows, columns)
    a, b, c, d = i[:-1, :-1].ravel(), i[:-1, 1:].ravel(), i[1:, 1:].ravel(), i[1:, :-1].ravel()
    return np.concatenate([np.stack([a, b, c], 1), np.stack([a, c, d], 1)])


def ball(radius: float, sides: int = 40) -> Shape:
    angle = np.linspace(-np.pi / 2, np.pi / 2, sides // 2 + 1)
    shape = lathe([(float(np.cos(a)), float(np.sin(a))) for a in angle], sides)
    return Shape(shape.positions * radius, shape.positions, shape.uv, shape.triangles)


def tube(path: list[tuple[float, float, float]], radii: list[float], sides: int = 20) -> Shape:
    """Along points, each with its radius; its ends are open."""
    points, sizes = np.array(path, float), np.array(radii, float)
    along = np.gradient(points, axis=0)
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    # square to the axis that the path never runs along
    side = np.cross(along, np.eye(3)[np.abs(along).max(axis=0).argmin()])
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    other = np.cross(along, side)
    turn = np.linspace(0, 2 * np.pi, sides + 1)
    normals = np.cos(turn)[None, :, None] * side[:, None] + np.sin(turn)[None, :, None] * other[:, None]
    positions = points[:, None] + sizes[:, None, None] * normals
    u, v = np.meshgrid(turn / (2 * np.pi), np.linspace(0, 1, len(points)))
    uv = np.stack([u.ravel(), v.ravel()], 1)
    return Shape(positions.reshape(-1, 3), normals.reshape(-1, 3), uv, _grid(len(points), sides + 1))


def sheet(corners: list[tuple[float, float, float]], uv: list[tuple[float, float]]) -> Shape:
    """A flat piece around its corners, counter-clockwise, seen from both sides."""
    points = np.array(corners, float)
    normal = np.cross(points[1] - points[0], points[2] - points[0])
    normal /= np.linalg.norm(normal)
    count = len(points)
    fan = np.array([[0, i, i + 1] for i in range(1, count - 1)])
    return Shape(points, np.tile(normal, (count, 1)), uv, fan)
