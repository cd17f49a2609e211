"""From accessors to arrays, with every bound checked before a byte is touched.

Source: glTF 2.0, 3.6.2 accessors [glTF2].
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import SceneRefused
from .container import Container

_KINDS: dict[int, Any] = {
    5120: np.int8, 5121: np.uint8, 5122: np.int16, 5123: np.uint16, 5125: np.uint32, 5126: np.float32,
}  # fmt: skip
_WIDTHS = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT2": 4, "MAT3": 9, "MAT4": 16}

#: Most elements of one accessor.
MAX_COUNT = 50_000_000


class Accessors:
    """The arrays of one file."""

    def __init__(self, container: Container) -> None:
        self._container = container
        self._json = container.json
        self._buffers: dict[int, bytes] = {}

    def floats(self, index: int, width: int, where: str) -> NDArray[np.float32]:
        """``(count, width)`` float32; normalised integers as shares of their largest value."""
        raw, normalised = self._array(index, where)
        if raw.shape[1] != width:
            raise SceneRefused(f"{where} has {raw.shape[1]} numbers each; {width} are expected.", where=where)
        values = raw.astype(np.float32)
        if normalised and raw.dtype.kind in "iu":
            values = np.maximum(values / np.float32(np.iinfo(raw.dtype).max), np.float32(-1))
        if not np.isfinite(values).all():
            raise SceneRefused(
                f"{where} holds numbers that are not finite (NaN or infinite).",
                advice="Repair the mesh and export it again.",
                where=where,
            )
        return values

    def indices(self, index: int, where: str) -> NDArray[np.int64]:
        """``(count,)`` whole numbers."""
        raw, _ = self._array(index, where)
        if raw.shape[1] != 1 or raw.dtype.kind != "u":
            raise SceneRefused(f"The indices of {where} are not whole numbers from 0.", where=where)
        return raw[:, 0].astype(np.int64)

    def view(self, index: int, where: str) -> bytes:
        """The bytes of a buffer view."""
        view = entry(self._json, "bufferViews", index, where)
        data = self._buffer(view.get("buffer"), where)
        begin, size = int(view.get("byteOffset", 0)), int(view.get("byteLength", 0))
        if begin < 0 or size <= 0 or begin + size > len(data):
            raise _outside(where)
        return data[begin : begin + size]

    def _buffer(self, index: Any, where: str) -> bytes:
        row = entry(self._json, "buffers", index, where)
        if index not in self._buffers:
            data = self._container.bytes_of(row.get("uri"), f"buffer {index}")
            if len(data) < int(row.get("byteLength", 0)):
                raise SceneRefused(
                    f"Buffer {index} breaks off: {len(data)} of {row.get('byteLength')} bytes are there.",
                    advice="Copy or export the scene again.",
                    where=f"buffer {index}",
                )
            self._buffers[index] = data
        return self._buffers[index]

    def _array(self, index: int, where: str) -> tuple[NDArray[Any], bool]:
        row = entry(self._json, "accessors", index, where)
        count, width = row.get("count"), _WIDTHS.get(row.get("type", ""))
        kind = _KINDS.get(row.get("componentType", 0))
        if kind is None or width is None or not isinstance(count, int) or not 0 < count <= MAX_COUNT:
            raise SceneRefused(
                f"{where} is described in a way that glTF does not know, or has too many numbers.",
                where=where,
            )
        if "bufferView" in row:
            values = self._strided(
                row["bufferView"], int(row.get("byteOffset", 0)), kind, count, width, where
            )
        else:
            values = np.zeros((count, width), kind)
        if "sparse" in row:
            values = self._replaced(values, row["sparse"], kind, width, where)
        return values, bool(row.get("normalized", False))

    def _strided(self, view: int, offset: int, kind: Any, count: int, width: int, where: str) -> NDArray[Any]:
        item = np.dtype(kind).itemsize * width
        data = self.view(view, where)
        stride = int(entry(self._json, "bufferViews", view, where).get("byteStride", item))
        if offset < 0 or stride < item or offset + stride * (count - 1) + item > len(data):
            raise _outside(where)
        flat = np.ndarray((count, width), kind, data, offset, (stride, np.dtype(kind).itemsize))
        return flat.copy()

    def _replaced(
        self, values: NDArray[Any], sparse: dict[str, Any], kind: Any, width: int, where: str
    ) -> NDArray[Any]:
        count = int(sparse.get("count", 0))
        at, by = sparse.get("indices", {}), sparse.get("values", {})
        index_kind = _KINDS.get(at.get("componentType", 0), np.uint8)
        places = self._strided(
            at.get("bufferView"), int(at.get("byteOffset", 0)), index_kind, count, 1, where
        )
        new = self._strided(by.get("bufferView"), int(by.get("byteOffset", 0)), kind, count, width, where)
        if places.max(initial=0) >= len(values):
            raise _outside(where)
        values[places[:, 0]] = new
        return values


def entry(document: dict[str, Any], table: str, index: Any, where: str) -> dict[str, Any]:
    """Row ``index`` of a table of the file; `SceneRefused` where there is none."""
    rows = document.get(table, [])
    if not isinstance(index, int) or isinstance(index, bool) or not 0 <= index < len(rows):
        raise SceneRefused(
            f"{where} names number {index} of {table}, which has {len(rows)}.",
            advice="Export the scene again.",
            where=where,
        )
    row = rows[index]
    if not isinstance(row, dict):
        raise SceneRefused(f"Number {index} of {table} is not an object.", where=where)
    return row


def numbers(values: Any, count: int, where: str) -> tuple[float, ...]:
    """A list of the JSON as so many finite numbers; `SceneRefused` where it is not."""
    try:
        found = tuple(float(v) for v in values)
    except (TypeError, ValueError):
        found = ()
    if len(found) != count or not np.isfinite(found).all():
        raise SceneRefused(f"{where}: {values!r} is not {count} numbers.", where=where)
    return found


def _outside(where: str) -> SceneRefused:
    return SceneRefused(
        f"{where} reaches beyond the end of its data.", advice="Copy or export the scene again.", where=where
    )
