"""A small writer of .glb files."""

from __future__ import annotations

import json
import struct
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from .shapes import Shape

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

    def matt(self, name: str, colour: list[float], roughness: float = 1.0, metallic: float = 0.0) -> int:
        """A plain surface of one colour."""
        surface = {
            "baseColorFactor": [*colour, 1], "metallicFactor": metallic, "roughnessFactor": roughness,
        }  # fmt: skip
        return self.material(name, pbrMetallicRoughness=surface)

    def glass(self, name: str, colour: list[float], roughness: float = 0.0) -> int:
        """A body of glass, clear on both sides."""
        surface = {
            "baseColorFactor": [*colour, 1], "metallicFactor": 0, "roughnessFactor": roughness,
        }  # fmt: skip
        extensions = {
            "KHR_materials_transmission": {"transmissionFactor": 1},
            "KHR_materials_ior": {"ior": 1.5},
            "KHR_materials_volume": {"thicknessFactor": 0.01},
        }
        return self.material(name, pbrMetallicRoughness=surface, extensions=extensions)

    def glow(self, name: str, colour: list[float], strength: float) -> int:
        """A surface that gives off light."""
        return self.material(
            name,
            pbrMetallicRoughness={"baseColorFactor": [0, 0, 0, 1], "metallicFactor": 0},
            emissiveFactor=colour,
            extensions={"KHR_materials_emissive_strength": {"emissiveStrength": strength}},
        )

    def mesh(self, shape: Shape, material: int, name: str) -> int:
        shape = shape.whole()
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

    def move(self, node: int, path: str, times: NDArray[Any], values: NDArray[Any]) -> None:
        """A node's translation, rotation (quaternions) or scale in time."""
        self._samplers.append(
            {
                "input": self._array(times.astype(np.float32), bounds=True),
                "output": self._array(values.astype(np.float32)),
            }
        )
        target = {"node": node, "path": path}
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
        used = {e for m in self.rows["materials"] for e in m.get("extensions", {})}
        if used or self._lights:
            document["extensionsUsed"] = sorted(used | ({"KHR_lights_punctual"} if self._lights else set()))
        if self._lights:
            document["extensions"] = {"KHR_lights_punctual": {"lights": self._lights}}
        text = json.dumps(document).encode()
        text += b" " * (-len(text) % 4)
        data = self._data + b"\0" * (-len(self._data) % 4)
        body = struct.pack("<II", len(text), 0x4E4F534A) + text
        body += struct.pack("<II", len(data), 0x004E4942) + data
        path.write_bytes(struct.pack("<4sII", b"glTF", 2, 12 + len(body)) + body)
        return path
