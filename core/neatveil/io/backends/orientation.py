"""Pictures that were stored turned or mirrored, and say so.

Source: TIFF 6.0, Orientation tag (274); Exif 2.32, 4.6.4 A.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ...picture import Box, Plane, StoredPicture

SHOWN_UPRIGHT = "The file says that it was stored turned or mirrored; it is shown upright."
#: Orientation: (rows and columns exchanged, then rows reversed, then columns reversed).
_HOW = {
    1: (False, False, False), 2: (False, False, True), 3: (False, True, True), 4: (False, True, False),
    5: (True, False, False), 6: (True, False, True), 7: (True, True, True), 8: (True, True, False),
}  # fmt: skip


def of(spec: Any) -> int:
    """What the file's header says; 1 is upright."""
    said = int(spec.get_int_attribute("Orientation", 1))
    return said if said in _HOW else 1


def size(width: int, height: int, turn: int) -> tuple[int, int]:
    """Width and height once it is upright."""
    return (height, width) if _HOW[turn][0] else (width, height)


def box(area: Box, frame: Box, turn: int) -> Box:
    """Where an area of the stored frame lies once it is upright."""
    exchanged, rows, columns = _HOW[turn]
    x0, y0, x1, y1 = area.x0, area.y0, area.x1, area.y1
    width, height = frame.width, frame.height
    if exchanged:
        x0, y0, x1, y1 = y0, x0, y1, x1
        width, height = height, width
    if rows:
        y0, y1 = height - y1, height - y0
    if columns:
        x0, x1 = width - x1, width - x0
    return Box(x0, y0, x1, y1)


def upright(picture: StoredPicture, turn: int) -> StoredPicture:
    """The picture as it is meant to be seen."""
    exchanged, rows, columns = _HOW[turn]

    def turned(plane: Plane) -> Plane:
        if exchanged:
            plane = plane.T
        if rows:
            plane = plane[::-1]
        if columns:
            plane = plane[:, ::-1]
        return np.ascontiguousarray(plane)

    frame = picture.display_window
    width, height = size(frame.width, frame.height, turn)
    return StoredPicture(
        {n: turned(p) for n, p in picture.planes.items()},
        box(picture.data_window, frame, turn), Box.sized(width, height), data_planes=picture.data_planes,
    )  # fmt: skip
