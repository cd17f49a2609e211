"""A small writer of .glb files."""

from __future__ import annotations

import json
import struct
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

_KINDS = {"uint32": 5125, "float32": 5126}
_TYPES = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4"}


class Glb:
    """Gathers meshes, nodes and the rest, and writes them as one file."""

    def __init__(self) -> None:
        self._data = b""
        self.rows: dict[str, list[dict[str, Any]]] = {
            k: []
            for k in (
                "nodes",
                "meshes",
                "materials",
                "accessors",
                "bufferViews",
                "cameras",
                "textures",
                "images",
            )
        }
        self._lights: list[dict[str, Any]] = []
        self._samplers: list[dict[str, Any]] = []
        self._channels: list[dict[str, Any]] = []

    def _add(self, table: str, row: dict[str, Any]) -> int:
        self.rows[table].append(row)
        return len(self.rows[table]) - 1

    def _view(self, data: bytes) -> int:
        self._data += b"\0" * (-len(self._data) % 4)
        view = {"buffer": 0, "byteOffset": len(self._data), "byteLength": len(data)}
        self._data += data
        return self._add("bufferViews", view)

    def _array(self, values: NDArray[Any], *, bounds: bool = False) -> int:
        values = np.ascontiguousarray(values)
        row: dict[str, Any] = {
            "bufferView": self._view(values.tobytes()), "componentType": _KINDS[values.dtype.name],
            "count": len(values), "type": _TYPES[1 if values.ndim == 1 else values.shape[1]],
        }  # fmt: skip
        if bounds:
            low, high = np.atleast_1d(values.min(axis=0)), np.atleast_1d(values.max(axis=0))
            row |= {"min": low.tolist(), "max": high.tolist()}
        return self._add("accessors", row)

    def picture(self, rgb: NDArray[np.uint8], name: str) -> int:
        """A texture from 8-bit sRGB pixels."""
        _, png = cv2.imencode(".png", cv2.cvtColor(rgb, cv2.COLOR_RGB2BGR))
        image = {"bufferView": self._view(png.tobytes()), "mimeType": "image/png", "name": name}
        return self._add("textures", {"source": self._add("images", image)})

    def material(self, name: str, **row: Any) -> int:
        return self._add("materials", {"name": name, **row})

    def mesh(self, shape: Shape, material: int, name: str) -> int:
        attributes = {
            "POSITION": self._array(shape.positions.astype(np.float32), bounds=True),
            "NORMAL": self._array(shape.normals.astype(np.float32)),
            "TEXCOORD_0": self._array(shape.uv.astype(np.float32)),
        }
        indices = self._array(shape.triangles.astype(np.uint32).reshape(-1))
        part = {"attributes": attributes, "indices": indices, "material": material}
        return self._add("meshes", {"name": name, "primitives": [part]})

    def node(self, name: str, **row: Any) -> int:
        return self._add("nodes", {"name": name, **row})

    def camera(self, name: str, yfov: float, **place: Any) -> int:
        lens = {"type": "perspective", "perspective": {"yfov": yfov, "znear": 0.05}, "name": name}
        return self.node(name, camera=self._add("cameras", lens), **place)

    def light(
        self, name: str, kind: str, intensity: float, colour: tuple[float, float, float], **place: Any
    ) -> int:
        self._lights.append({"name": name, "type": kind, "intensity": intensity, "color": list(colour)})
        extension = {"KHR_lights_punctual": {"light": len(self._lights) - 1}}
        return self.node(name, extensions=extension, **place)

    def turn(self, node: int, times: NDArray[Any], quaternions: NDArray[Any]) -> None:
        """A node's rotation in time."""
        self._samplers.append(
            {
                "input": self._array(times.astype(np.float32), bounds=True),
                "output": self._array(quaternions.astype(np.float32)),
            }
        )
        target = {"node": node, "path": "rotation"}
        self._channels.append({"sampler": len(self._samplers) - 1, "target": target})

    def write(self, path: Path) -> Path:
        below = {c for n in self.rows["nodes"] for c in n.get("children", [])}
        document: dict[str, Any] = {
            "asset": {"version": "2.0", "generator": "Ferrow Marsh"},
            "scene": 0,
            "scenes": [{"nodes": [i for i in range(len(self.rows["nodes"])) if i not in below]}],
            "buffers": [{"byteLength": len(self._data)}],
            **{k: v for k, v in self.rows.items() if v},
        }
        if self._channels:
            document["animations"] = [{"samplers": self._samplers, "channels": self._channels}]
        if self._lights:
            document["extensionsUsed"] = ["KHR_lights_punctual"]
            document["extensions"] = {"KHR_lights_punctual": {"lights": self._lights}}
        text = json.dumps(document).encode()
        text += b" " * (-len(text) % 4)
        data = self._data + b"\0" * (-len(self._data) % 4)
        body = struct.pack("<II", len(text), 0x4E4F534A) + text
        body += struct.pack("<II", len(data), 0x004E4942) + data
        path.write_bytes(struct.pack("<4sII", b"glTF", 2, 12 + len(body)) + body)
        return path


class Shape:
    """Triangles with normals and UVs."""

    def __init__(self, positions: Any, normals: Any, uv: Any, triangles: Any) -> None:
        self.positions, self.normals = np.asarray(positions, float), np.asarray(normals, float)
        self.uv, self.triangles = np.asarray(uv, float), np.asarray(triangles, int)

    def moved(self, x: float, y: float, z: float) -> Shape:
        return Shape(self.positions + np.array([x, y, z]), self.normals, self.uv, self.triangles)

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
