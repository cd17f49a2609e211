"""Meshes: triangles with normals and UVs, whole and usable.

Source: glTF 2.0, 3.7.2 meshes [glTF2].
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import SceneRefused
from ..model import Floats, Mesh
from .accessors import Accessors, entry
from .materials import Materials

_TRIANGLES, _STRIP, _FAN = 4, 5, 6
_READ = {"POSITION", "NORMAL", "TEXCOORD_0"}


class Meshes:
    """The meshes of one file, each made once."""

    def __init__(
        self, document: dict[str, Any], accessors: Accessors, materials: Materials, notes: list[str]
    ) -> None:
        self._json = document
        self._accessors = accessors
        self._materials = materials
        self._notes = notes
        self._made: dict[int, tuple[Mesh, ...]] = {}

    def get(self, index: int, node: str) -> tuple[Mesh, ...]:
        """One mesh a primitive: each has one material."""
        if index not in self._made:
            row = entry(self._json, "meshes", index, f"node {node}")
            name = str(row.get("name") or f"mesh {index}")
            parts = row.get("primitives", [])
            made = (
                self._primitive(p, name if len(parts) == 1 else f"{name}.{i}") for i, p in enumerate(parts)
            )
            self._made[index] = tuple(m for m in made if m is not None)
        return self._made[index]

    def _primitive(self, row: dict[str, Any], name: str) -> Mesh | None:
        where = f"mesh {name}"
        mode = row.get("mode", _TRIANGLES)
        attributes = row.get("attributes", {})
        if mode not in {_TRIANGLES, _STRIP, _FAN}:
            self._notes.append(f"Mesh {name}: points and lines are not rendered.")
            return None
        if "POSITION" not in attributes:
            raise SceneRefused(f"{where} has no positions.", where=name)
        self._note_unread(row, attributes, name)
        positions = self._accessors.floats(attributes["POSITION"], 3, where)
        triangles = self._triangles(row, mode, where, name, positions)
        normals = self._attribute(attributes, "NORMAL", 3, len(positions), where)
        uv = self._attribute(attributes, "TEXCOORD_0", 2, len(positions), where)
        if normals is None:
            # corners of their own for every triangle, with its flat normal, as the standard asks
            corners = triangles.reshape(-1)
            positions, uv = positions[corners], None if uv is None else uv[corners]
            triangles = np.arange(triangles.size).reshape(-1, 3)
            normals = _flat_normals(positions)
        else:
            normals = _unit(normals)
        material = self._materials.get(row.get("material"), where)
        return Mesh(name, positions, normals, uv, triangles.astype(np.int32), material)

    def _note_unread(self, row: dict[str, Any], attributes: dict[str, Any], name: str) -> None:
        if row.get("targets"):
            self._notes.append(f"Mesh {name}: its morph targets are not rendered.")
        for key in sorted(set(attributes) - _READ - {"TANGENT"}):
            self._notes.append(f"Mesh {name}: {key} is not rendered.")

    def _attribute(
        self, attributes: dict[str, Any], key: str, width: int, count: int, where: str
    ) -> Floats | None:
        if key not in attributes:
            return None
        values = self._accessors.floats(attributes[key], width, f"{key} of {where}")
        if len(values) != count:
            raise SceneRefused(f"{where} has {count} positions and {len(values)} of {key}.", where=where)
        return values

    def _triangles(
        self, row: dict[str, Any], mode: int, where: str, name: str, positions: Floats
    ) -> NDArray[np.int64]:
        """``(T, 3)``; those of no area are left out and noted."""
        count = len(positions)
        order = self._accessors.indices(row["indices"], where) if "indices" in row else np.arange(count)
        if len(order) and order.max() >= count:
            raise SceneRefused(
                f"{where} names position {int(order.max())} of {count}.",
                advice="Export the scene again.",
                where=name,
            )
        triangles = _as_triangles(order, mode)
        a, b, c = (positions[triangles[:, i]].astype(np.float64) for i in range(3))
        area = np.linalg.norm(np.cross(b - a, c - a), axis=1)
        usable = area > 0
        if not usable.all():
            self._notes.append(f"Mesh {name}: {int((~usable).sum())} triangles of no area are left out.")
        kept: NDArray[np.int64] = triangles[usable]
        if not len(kept):
            raise SceneRefused(f"{where} has no triangle with an area.", where=name)
        return kept


def _as_triangles(order: NDArray[np.int64], mode: int) -> NDArray[np.int64]:
    if mode == _TRIANGLES:
        return order[: len(order) // 3 * 3].reshape(-1, 3)
    if mode == _FAN:
        return np.stack([np.full(len(order) - 2, order[0]), order[1:-1], order[2:]], axis=1)
    # every second triangle of a strip turns the other way (3.7.2.1)
    strip = np.stack([order[:-2], order[1:-1], order[2:]], axis=1)
    strip[1::2] = strip[1::2][:, [0, 2, 1]]
    return strip


def _flat_normals(corners: Floats) -> Floats:
    """One normal for the three corners of each triangle, ``(3 T, 3)``."""
    a, b, c = (corners[i::3].astype(np.float64) for i in range(3))
    return np.repeat(_unit(np.cross(b - a, c - a)), 3, axis=0)


def _unit(vectors: NDArray[Any]) -> Floats:
    vectors = vectors.astype(np.float64)
    length = np.linalg.norm(vectors, axis=1, keepdims=True)
    safe = np.where(length > 0, vectors / np.maximum(length, 1e-300), (0.0, 0.0, 1.0))
    return np.ascontiguousarray(safe, np.float32)
