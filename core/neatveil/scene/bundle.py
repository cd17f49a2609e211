"""Triangles that rays can hit: some parts of a world in one Embree scene [Embree]."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from embreex import rtcore_scene
from embreex.mesh_construction import TriangleMesh
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import inline, kernel
from ..numeric.rows import taken
from .model import Floats

Ints = NDArray[np.int32]


@dataclass(frozen=True)
class Hits:
    """What rays met first.

    Attributes
    ----------
    length : ``(N,)`` in units of the ray's direction; infinite where nothing was met.
    triangle : ``(N,)`` number among all triangles of the world; -1 where nothing was met.
    u, v : ``(N,)`` weights of the triangle's second and third corner.
    """

    length: Floats
    triangle: Ints
    u: Floats
    v: Floats

    def some(self, rows: NDArray[np.int64]) -> Hits:
        """Those of some rays."""
        u, v = taken(self.u, rows), taken(self.v, rows)
        return Hits(taken(self.length, rows), taken(self.triangle, rows), u, v)


@dataclass(frozen=True)
class PartShape:
    """A part in world space: its vertices, its triangles, and the number of its first triangle."""

    positions: Floats
    triangles: Ints
    first: int


class Bundle:
    """Some parts together. An empty bundle is met by no ray."""

    def __init__(self, parts: Iterable[PartShape]) -> None:
        listed = list(parts)
        self._embree = rtcore_scene.EmbreeScene()
        for part in listed:
            TriangleMesh(self._embree, part.positions, part.triangles)
        self._first = np.array([p.first for p in listed], np.int32)

    @property
    def empty(self) -> bool:
        return not len(self._first)

    def first_hits(self, origins: Floats, directions: Floats, near: float = 0.0) -> Hits:
        """What ``(N, 3)`` rays meet first, beyond ``near`` times their direction."""
        count = len(origins)
        length, triangle = new_array((count,)), new_array((count,), np.int32)
        if self.empty or not count:
            length[:], triangle[:] = np.inf, -1
            return Hits(length, triangle, np.zeros(count, np.float32), np.zeros(count, np.float32))
        begin = origins
        if near:
            begin = new_array(origins.shape)
            np.multiply(directions, np.float32(near), out=begin)
            begin += origins
        found = self._embree.run(begin, directions, output=1)
        fill_hits(
            found["geomID"], found["primID"], found["tfar"], self._first, np.float32(near), length, triangle
        )
        return Hits(length, triangle, found["u"], found["v"])

    def blocked(self, origins: Floats, directions: Floats, lengths: Floats) -> NDArray[np.bool_]:
        """Whether anything lies on ``(N, 3)`` rays before their length."""
        if self.empty or not len(origins):
            return np.zeros(len(origins), np.bool_)
        hit: NDArray[np.bool_] = self._embree.run(origins, directions, lengths, query="OCCLUDED") >= 0
        return hit


@kernel
def fill_hits(geometry, primitive, far, first, near, length, triangle):  # type: ignore[no-untyped-def]
    for i in range(length.size):
        met = geometry[i] >= 0
        triangle[i] = first[geometry[i]] + primitive[i] if met else -1
        length[i] = far[i] + near if met else np.inf


@kernel
def blend(values, corners, triangle, u, v, out):  # type: ignore[no-untyped-def]
    """Values of the vertices at the hits, by the hits' weights; 0 where nothing was met."""
    for i in range(out.shape[0]):
        t = triangle[i]
        if t >= 0:
            a, b, c = corners[t, 0], corners[t, 1], corners[t, 2]
            w = np.float32(1) - u[i] - v[i]
            for k in range(out.shape[1]):
                out[i, k] = values[a, k] * w + values[b, k] * u[i] + values[c, k] * v[i]
        else:
            for k in range(out.shape[1]):
                out[i, k] = 0


@inline
def off_surface(x, y, z):  # type: ignore[no-untyped-def]
    """How far off a surface at a place its rays begin, so that it does not hide from itself."""
    return np.float32(1e-4) * (np.float32(1) + max(abs(x), abs(y), abs(z)))
