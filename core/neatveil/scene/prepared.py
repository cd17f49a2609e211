"""A scene as it was read, kept as plain arrays and JSON: opened again without reading the file's bytes.

What a file from outside holds is looked at once, in a limited process; everybody else opens this.
"""

from __future__ import annotations

import json
import zipfile
from dataclasses import fields
from pathlib import Path
from typing import Any

import numpy as np

from ..errors import SceneRefused
from ..io.whole import whole_file
from .model import Camera, Light, Material, Mesh, Motion, Node, Scene, Texture

_KINDS = {k.__name__: k for k in (Scene, Node, Mesh, Material, Texture, Camera, Light, Motion)}
#: Changes when the classes of `model` change.
VERSION = 1
#: Name of the array that says what the others are, in files of every version.
INDEX = "told"


def save_prepared(scene: Scene, path: Path) -> None:
    """Write it whole or not at all."""
    packer = _Packer()
    top = packer.pack(scene)
    index = json.dumps({"version": VERSION, "top": top, "objects": packer.objects})
    with whole_file(path) as part, part.open("wb") as file:
        rows = {**packer.arrays, INDEX: np.frombuffer(index.encode(), np.uint8)}
        np.savez(file, allow_pickle=False, **rows)


def open_prepared(path: Path) -> Scene:
    """The scene again; `SceneRefused` where the file is not one of these, or of an older version."""
    try:
        with np.load(path, allow_pickle=False) as archive:
            index = json.loads(archive[INDEX].tobytes())
            if index["version"] != VERSION:
                raise ValueError("another version")
            scene = _Unpacker(index["objects"], archive).unpack(index["top"])
    except (OSError, ValueError, KeyError, TypeError, zipfile.BadZipFile) as error:
        raise SceneRefused(
            f"{path.name} is not a prepared scene ({error}).",
            advice="Import the scene again.",
            where=path.name,
        ) from error
    assert isinstance(scene, Scene)
    return scene


class _Packer:
    """Objects by number, each once: meshes that share a material share it again."""

    def __init__(self) -> None:
        self.objects: list[dict[str, Any]] = []
        self.arrays: dict[str, np.ndarray[Any, Any]] = {}
        self._known: dict[int, int] = {}

    def pack(self, value: Any) -> Any:
        if isinstance(value, np.ndarray):
            name = f"a{len(self.arrays)}"
            self.arrays[name] = value
            return {"array": name}
        if isinstance(value, tuple):
            return [self.pack(v) for v in value]
        if type(value).__name__ in _KINDS:
            if id(value) not in self._known:
                row = {f.name: self.pack(getattr(value, f.name)) for f in fields(value)}
                self._known[id(value)] = len(self.objects)
                self.objects.append({"kind": type(value).__name__, "row": row})
            return {"object": self._known[id(value)]}
        return {"endless": True} if value == float("inf") else value


class _Unpacker:
    def __init__(self, objects: list[dict[str, Any]], arrays: Any) -> None:
        self._objects, self._arrays = objects, arrays
        self._made: dict[int, Any] = {}

    def unpack(self, value: Any) -> Any:
        if isinstance(value, list):
            return tuple(self.unpack(v) for v in value)
        if not isinstance(value, dict):
            return value
        if "array" in value:
            return self._arrays[value["array"]]
        if "endless" in value:
            return float("inf")
        number = value["object"]
        if number not in self._made:
            entry = self._objects[number]
            row = {name: self.unpack(v) for name, v in entry["row"].items()}
            self._made[number] = _KINDS[entry["kind"]](**row)
        return self._made[number]
