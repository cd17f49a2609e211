"""The scene at one moment, ready to be hit by rays.

Everything that a hit needs lies in flat arrays, so that compiled loops reach it without asking Python.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .bundle import Bundle, PartShape
from .model import Floats, Material, Scene
from .motion import places_at
from .object_roles import CATCHER, HELD, HIDDEN, SHOWN, ObjectRoles


class World:
    """All triangles of a scene at one moment, in world space.

    Attributes
    ----------
    places : of each node, ``(4, 4)`` from its own space to the world's.
    positions, normals, uv : ``(V, 3)``, ``(V, 3)``, ``(V, 2)``; uv is 0 where a mesh has none.
    corners : ``(T, 3)`` vertices of each triangle.
    part : ``(T,)`` number of the part (one mesh at one node) that the triangle belongs to.
    part_node, part_material, part_role : of each part: its node, its row in ``materials``, its role.
    part_counted : of each part: whether another render layer catches its shadows.
    part_has_uv, part_mirrored : of each part; a mirrored one's triangles run the other way (3.7.4).
    everything : what light meets; ``ahead`` : what the camera meets.
    """

    def __init__(self, scene: Scene, seconds: float = 0.0, casting: ObjectRoles | None = None) -> None:
        self.scene = scene
        self.seconds = seconds
        self.places = places_at(scene, seconds)
        self.materials: list[Material] = []
        self._shapes: list[PartShape] = []
        positions, normals, uv, corners, part = [], [], [], [], []
        nodes: list[int] = []
        materials: list[int] = []
        has_uv: list[bool] = []
        mirrored: list[bool] = []
        vertices = triangles = 0
        for number, (node, place) in enumerate(zip(scene.nodes, self.places, strict=True)):
            turn = _normal_matrix(place[:3, :3])
            for mesh in node.meshes:
                at = (mesh.positions.astype(np.float64) @ place[:3, :3].T + place[:3, 3]).astype(np.float32)
                self._shapes.append(PartShape(at, mesh.triangles, triangles))
                positions.append(at)
                normals.append(_unit(mesh.normals @ turn.T))
                uv.append(np.zeros((len(at), 2), np.float32) if mesh.uv is None else mesh.uv)
                corners.append(mesh.triangles + vertices)
                part.append(np.full(len(mesh.triangles), len(nodes), np.int32))
                nodes.append(number)
                materials.append(self._material(mesh.material))
                has_uv.append(mesh.uv is not None)
                mirrored.append(bool(np.linalg.det(place[:3, :3]) < 0))
                vertices += len(at)
                triangles += len(mesh.triangles)
        self.positions = np.concatenate(positions)
        self.normals = np.concatenate(normals)
        self.uv = np.concatenate(uv)
        self.corners = np.concatenate(corners).astype(np.int32)
        self.part = np.concatenate(part)
        self.part_node = np.array(nodes, np.int32)
        self.part_material = np.array(materials, np.int32)
        self.part_has_uv, self.part_mirrored = np.array(has_uv), np.array(mirrored)
        casting = casting or ObjectRoles()
        self.part_role = casting.of_nodes(scene)[self.part_node]
        counted = np.array([n.name in casting.counted for n in scene.nodes], np.bool_)
        self.part_counted = counted[self.part_node]
        self.everything = Bundle(self._shapes)
        seen = self.part_role != HIDDEN
        self.ahead = self.everything if seen.all() else self._bundle(seen)

    def _material(self, material: Material) -> int:
        # the same object for every mesh that names it
        for number, known in enumerate(self.materials):
            if known is material:
                return number
        self.materials.append(material)
        return len(self.materials) - 1

    def _bundle(self, which: NDArray[np.bool_]) -> Bundle:
        return Bundle(s for s, wanted in zip(self._shapes, which, strict=True) if wanted)

    @cached_property
    def stands_in(self) -> bool:
        """Whether anything stands in for things of the plate: it is cut out, or is a shadow catcher."""
        return bool(np.isin(self.part_role, (HELD, CATCHER)).any())

    @cached_property
    def glassy(self) -> NDArray[np.bool_]:
        """Of each material: whether light goes through it."""
        return np.array([m.transmission > 0 for m in self.materials])

    @cached_property
    def by_light(self) -> tuple[Bundle, Bundle]:
        """What is there, apart by whether any light comes through it: solid, sheer."""
        return self._by_light(np.ones(len(self._shapes), np.bool_))

    @cached_property
    def shown_by_light(self) -> tuple[Bundle, Bundle]:
        """The same of what is shown, whose shadows go with a picture of it, and of what is counted."""
        return self._by_light((self.part_role == SHOWN) | self.part_counted)

    @cached_property
    def counted_by_light(self) -> tuple[Bundle, Bundle]:
        """The same of what other render layers catch the shadows of."""
        return self._by_light(self.part_counted)

    def _by_light(self, which: NDArray[np.bool_]) -> tuple[Bundle, Bundle]:
        sheer = np.array([m.sheer for m in self.materials])[self.part_material]
        if which.all() and not sheer.any():
            return self.everything, Bundle(())
        return self._bundle(which & ~sheer), self._bundle(which & sheer)


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
