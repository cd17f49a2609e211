"""glTF files for the tests, written as the standard says."""

import json
import struct
from pathlib import Path

import numpy as np

KINDS = {"int8": 5120, "uint8": 5121, "int16": 5122, "uint16": 5123, "uint32": 5125, "float32": 5126}
TYPES = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4"}


class Writer:
    """Gathers arrays in one buffer; the document is free to be made wrong."""

    def __init__(self):
        self.data = b""
        self.document = {
            "asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [], "meshes": [],
            "accessors": [], "bufferViews": [], "materials": [],
        }  # fmt: skip

    def array(self, values, normalized=False):
        """Number of an accessor that holds the values."""
        values = np.ascontiguousarray(values)
        self.data += b"\0" * (-len(self.data) % 4)
        view = {"buffer": 0, "byteOffset": len(self.data), "byteLength": values.nbytes}
        self.document["bufferViews"].append(view)
        self.data += values.tobytes()
        self.document["accessors"].append(
            {
                "bufferView": len(self.document["bufferViews"]) - 1,
                "componentType": KINDS[values.dtype.name],
                "count": len(values),
                "type": TYPES[1 if values.ndim == 1 else values.shape[1]],
                "normalized": normalized,
            }
        )
        return len(self.document["accessors"]) - 1

    def mesh(self, positions, indices=None, uv=None, normals=None, name="thing", **more):
        attributes = {"POSITION": self.array(np.asarray(positions, np.float32))}
        if uv is not None:
            attributes["TEXCOORD_0"] = self.array(np.asarray(uv, np.float32))
        if normals is not None:
            attributes["NORMAL"] = self.array(np.asarray(normals, np.float32))
        part = {"attributes": attributes, **more}
        if indices is not None:
            part["indices"] = self.array(np.asarray(indices, np.uint16))
        self.document["meshes"].append({"name": name, "primitives": [part]})
        return len(self.document["meshes"]) - 1

    def node(self, **row):
        self.document["nodes"].append(row)
        return len(self.document["nodes"]) - 1

    def glb(self, path: Path) -> Path:
        document = {**self.document, "buffers": [{"byteLength": len(self.data)}]}
        text = json.dumps(document).encode()
        text += b" " * (-len(text) % 4)
        data = self.data + b"\0" * (-len(self.data) % 4)
        body = (
            struct.pack("<II", len(text), 0x4E4F534A)
            + text
            + struct.pack("<II", len(data), 0x004E4942)
            + data
        )
        path.write_bytes(struct.pack("<4sII", b"glTF", 2, 12 + len(body)) + body)
        return path

    def gltf(self, path: Path, buffer: str = "scene.bin") -> Path:
        (path.parent / "scene.bin").write_bytes(self.data)
        document = {**self.document, "buffers": [{"uri": buffer, "byteLength": len(self.data)}]}
        path.write_text(json.dumps(document))
        return path


TRIANGLE = [[0, 0, 0], [1, 0, 0], [0, 1, 0]]


def triangle(**more) -> Writer:
    writer = Writer()
    writer.node(name="leaf", mesh=writer.mesh(TRIANGLE, **more))
    return writer
