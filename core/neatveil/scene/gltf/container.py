"""The files of a glTF scene: its JSON and its buffers.

Source: glTF 2.0, 4.4 GLB file format and 3.6 binary data storage [glTF2].
"""

from __future__ import annotations

import base64
import binascii
import json
import struct
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import unquote

from ...errors import FileEmpty, FileMissing, SceneRefused

#: Largest file that is read.
MAX_BYTES = 2 << 30

_GLB, _JSON_CHUNK, _BIN_CHUNK = 0x46546C67, 0x4E4F534A, 0x004E4942


@dataclass(frozen=True)
class Container:
    """The JSON of a scene, the folder its files lie in, and the binary chunk that came with it."""

    path: Path
    json: dict[str, Any]
    chunk: bytes | None

    def bytes_of(self, uri: str | None, what: str) -> bytes:
        """The bytes that a buffer or picture names; None is the file's own binary chunk.

        Raises `SceneRefused` for names that lead out of the scene's folder, `FileMissing`.
        """
        if uri is None:
            if self.chunk is None:
                raise SceneRefused(
                    f"{what} names no file and {self.path.name} has no binary part.", where=what
                )
            return self.chunk
        if uri.startswith("data:"):
            return _data(uri, what)
        name = unquote(uri)
        path = self.path.parent / name
        if "://" in name or not path.resolve().is_relative_to(self.path.parent.resolve()):
            raise SceneRefused(
                f"{what} names {name}, which is not beside the scene.",
                advice="Put its files into the scene's folder.",
                where=what,
            )
        if not path.is_file():
            raise FileMissing(
                f"{name}, which {what} of {self.path.name} names, is not there.",
                advice="Import it together with the scene.",
                where=name,
            )
        return _read(path)


def open_container(path: Path) -> Container:
    """Raises `FileMissing`, `FileEmpty`, `SceneRefused`."""
    if not path.is_file():
        raise FileMissing(f"{path.name} is not there.", where=path.name)
    data = _read(path)
    chunk = None
    if data[:4] == b"glTF":
        text, chunk = _glb(path, data)
    else:
        text = data
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise _damaged(path, f"its JSON cannot be read ({error})") from error
    if not isinstance(document, dict) or not isinstance(document.get("asset"), dict):
        raise _damaged(path, "it does not say which version of glTF it is")
    version = str(document["asset"].get("version", ""))
    if not version.startswith("2."):
        raise SceneRefused(
            f"{path.name} is glTF {version or 'of no version'}; only 2.0 is read.",
            advice="Export it again as glTF 2.0.",
            where=path.name,
        )
    return Container(path, document, chunk)


def _read(path: Path) -> bytes:
    size = path.stat().st_size
    if size == 0:
        raise FileEmpty(
            f"{path.name} is empty (0 bytes).", advice="Copy or export it again.", where=path.name
        )
    if size > MAX_BYTES:
        raise SceneRefused(
            f"{path.name} has {size >> 20} MB; at most {MAX_BYTES >> 20} MB are read.", where=path.name
        )
    return path.read_bytes()


def _glb(path: Path, data: bytes) -> tuple[bytes, bytes | None]:
    if len(data) < 20:
        raise _damaged(path, "it breaks off in its header")
    _, version, length = struct.unpack_from("<III", data)
    if version != 2:
        raise _damaged(path, f"it is GLB version {version}; 2 was expected")
    if length > len(data):
        raise _damaged(path, f"it breaks off: {len(data)} of {length} bytes are there")
    chunks: dict[int, bytes] = {}
    at = 12
    while at + 8 <= length:
        size, kind = struct.unpack_from("<II", data, at)
        if at + 8 + size > length:
            raise _damaged(path, "one of its parts is longer than the file")
        chunks.setdefault(kind, data[at + 8 : at + 8 + size])
        at += 8 + size
    if _JSON_CHUNK not in chunks:
        raise _damaged(path, "it has no JSON part")
    return chunks[_JSON_CHUNK], chunks.get(_BIN_CHUNK)


def _data(uri: str, what: str) -> bytes:
    head, _, body = uri.partition(",")
    try:
        return base64.b64decode(body, validate=True) if head.endswith(";base64") else unquote(body).encode()
    except binascii.Error as error:
        raise SceneRefused(f"{what} holds base64 that cannot be read: {error}.", where=what) from error


def _damaged(path: Path, why: str) -> SceneRefused:
    return SceneRefused(
        f"{path.name} cannot be read as glTF: {why}.", advice="Copy or export it again.", where=path.name
    )
