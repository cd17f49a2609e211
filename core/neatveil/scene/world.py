"""The scene at one moment, ready to be hit by rays.

Rays go through Embree [Embree]. Everything that a hit needs lies in flat arrays, so that compiled
loops reach it without asking Python.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from embreex import rtcore_scene
from embreex.mesh_construction import TriangleMesh
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import inline, kernel
from .model import Floats, Material, Scene
from .motion import places_at

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


class World:
    """All triangles of a scene at one moment, in world space.

    Attributes
    ----------
    places : of each node, ``(4, 4)`` from its own space to the world's.
    positions, normals, uv : ``(V, 3)``, ``(V, 3)``, ``(V, 2)``; uv is 0 where a mesh has none.
    corners : ``(T, 3)`` vertices of each triangle.
    part : ``(T,)`` number of the part (one mesh at one node) that the triangle belongs to.
    part_node, part_material : of each part: its node, its row in ``materials``.
    part_has_uv : of each part.
    """

    def __init__(self, scene: Scene, seconds: float = 0.0) -> None:
        self._embree = rtcore_scene.EmbreeScene()
        self.scene = scene
        self.seconds = seconds
        self.places = places_at(scene, seconds)
        self.materials: list[Material] = []
        positions, normals, uv, corners, part = [], [], [], [], []
        nodes: list[int] = []
        materials: list[int] = []
        has_uv: list[bool] = []
        vertices = 0
        for number, (node, place) in enumerate(zip(scene.nodes, self.places, strict=True)):
            turn = _normal_matrix(place[:3, :3])
            for mesh in node.meshes:
                at = (mesh.positions.astype(np.float64) @ place[:3, :3].T + place[:3, 3]).astype(np.float32)
                TriangleMesh(self._embree, at, mesh.triangles)
                positions.append(at)
                normals.append(_unit(mesh.normals @ turn.T))
                uv.append(np.zeros((len(at), 2), np.float32) if mesh.uv is None else mesh.uv)
                corners.append(mesh.triangles + vertices)
                part.append(np.full(len(mesh.triangles), len(nodes), np.int32))
                nodes.append(number)
                materials.append(self._material(mesh.material))
                has_uv.append(mesh.uv is not None)
                vertices += len(at)
        self.positions = np.concatenate(positions)
        self.normals = np.concatenate(normals)
        self.uv = np.concatenate(uv)
        self.corners = np.concatenate(corners).astype(np.int32)
        self.part = np.concatenate(part)
        self.part_node = np.array(nodes, np.int32)
        self.part_material = np.array(materials, np.int32)
        self.part_has_uv = np.array(has_uv)
        self._first = np.searchsorted(self.part, np.arange(len(nodes))).astype(np.int32)

    def _material(self, material: Material) -> int:
        # the same object for every mesh that names it
        for number, known in enumerate(self.materials):
            if known is material:
                return number
        self.materials.append(material)
        return len(self.materials) - 1

    def first_hits(self, origins: Floats, directions: Floats, near: float = 0.0) -> Hits:
        """What ``(N, 3)`` rays meet first, beyond ``near`` times their direction."""
        begin = origins
        if near:
            begin = new_array(origins.shape)
            np.multiply(directions, np.float32(near), out=begin)
            begin += origins
        found = self._embree.run(begin, directions, output=1)
        length, triangle = new_array((len(begin),)), new_array((len(begin),), np.int32)
        fill_hits(
            found["geomID"], found["primID"], found["tfar"], self._first, np.float32(near), length, triangle
        )
        return Hits(length, triangle, found["u"], found["v"])

    def blocked(self, origins: Floats, directions: Floats, lengths: Floats) -> NDArray[np.bool_]:
        """Whether anything lies on ``(N, 3)`` rays before their length."""
        hit: NDArray[np.bool_] = self._embree.run(origins, directions, lengths, query="OCCLUDED") >= 0
        return hit


@kernel
def blend(values, corners, triangle, u, v, covered, out):  # type: ignore[no-untyped-def]
    """Values at the hits; 0 where nothing was met."""
    for i in range(out.shape[0]):
        if covered[i]:
            t = triangle[i]
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


@kernel
def fill_hits(geometry, primitive, far, first, near, length, triangle):  # type: ignore[no-untyped-def]
    for i in range(length.size):
        met = geometry[i] >= 0
        triangle[i] = first[geometry[i]] + primitive[i] if met else -1
        length[i] = far[i] + near if met else np.inf


def _normal_matrix(linear: NDArray[np.float64]) -> NDArray[np.float64]:
    """Turns normals as the surface turns, when it is scaled unevenly or mirrored too."""
    cofactors = np.empty((3, 3))
    for i in range(3):
        cofactors[i] = np.cross(linear[(i + 1) % 3], linear[(i + 2) % 3])
    side = -1.0 if np.linalg.det(linear) < 0 else 1.0
    turned: NDArray[np.float64] = cofactors * side
    return turned


def _unit(vectors: NDArray[np.floating]) -> Floats:
    length = np.linalg.norm(vectors, axis=1, keepdims=True)
    return (vectors / np.where(length > 0, length, 1)).astype(np.float32)
