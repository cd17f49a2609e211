"""Leaving out the empty border of a picture: a caption need not be carried as a whole frame."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from .allocate import new_planes
from .box import Box
from .picture import Picture, Plane

P = TypeVar("P", bound=Picture)

#: A smaller data window is worth the copy when it leaves out this share of the pixels.
WORTH = 1 / 8


@kernel
def _gather(bits, columns, rows):  # type: ignore[no-untyped-def]
    """All bits that are set in each column and each row; no branch, so that it vectorises."""
    for y in range(bits.shape[0]):
        row = bits[y]
        seen = np.uint32(0)
        for x in range(columns.size):
            columns[x] |= row[x]
            seen |= row[x]
        rows[y] |= seen


def _used(planes: Sequence[Plane]) -> tuple[NDArray[np.uint32], NDArray[np.uint32]]:
    """Columns and rows that hold a value other than 0 (or -0) in any of the planes: those are not 0."""
    height, width = planes[0].shape
    rows = np.zeros(height, np.uint32)
    parts: list[NDArray[np.uint32]] = []

    def strip(first: int, end: int) -> None:
        columns = np.zeros(width, np.uint32)
        for plane in planes:
            _gather(plane[first:end].view(np.uint32), columns, rows[first:end])
        parts.append(columns)

    for_strips(height, width * len(planes), strip)
    not_sign = np.uint32(0x7FFFFFFF)
    return np.bitwise_or.reduce(parts) & not_sign, rows & not_sign


def used_box(picture: Picture) -> Box:
    """The part of a picture's data window in which any plane is not 0; one pixel where there is none.

    Parameters
    ----------
    picture : of any alpha state.

    Returns
    -------
    In the coordinates of its data window.

    Examples
    --------
    >>> from neatveil.picture import PremultipliedPicture
    >>> rgba = np.zeros((64, 64, 4), np.float32); rgba[8:12, 8:12] = 1
    >>> used_box(PremultipliedPicture.from_rgba(rgba)).as_list()
    [8, 8, 12, 12]
    """
    window = picture.data_window
    return _box(list(picture.planes.values())).shift(window.x0, window.y0)


def _box(planes: Sequence[Plane]) -> Box:
    """The rows and columns that are used, from the planes' own corner."""
    columns, rows = (np.flatnonzero(used) for used in _used(planes))
    if not rows.size:
        return Box(0, 0, 1, 1)  # nothing anywhere: one empty pixel
    return Box(int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1)


def trimmed(picture: P, names: Iterable[str] | None = None, worth: float = WORTH) -> P:
    """The same picture with a data window that leaves out borders of 0 in every plane.

    Parameters
    ----------
    picture : of any alpha state.
    names : the planes that are looked at, where others do not matter; all where it is left out.
    worth : the share of the pixels that must be left out for it to be copied.

    Returns
    -------
    A picture of the same state and display window; the given one where little would be left out.

    Examples
    --------
    >>> from neatveil.picture import PremultipliedPicture
    >>> rgba = np.zeros((64, 64, 4), np.float32); rgba[8:12, 8:12] = 1
    >>> trimmed(PremultipliedPicture.from_rgba(rgba)).display_window.width
    64
    """
    window = picture.data_window
    planes = [picture[n] for n in names or picture.planes]
    if any(all(edge.any() for edge in (p[0], p[-1], p[:, 0], p[:, -1])) for p in planes):
        return picture
    box = _box(planes)
    if box.width * box.height > (1 - worth) * window.width * window.height:
        return picture
    smaller = new_planes(picture.planes, box.height, box.width)

    def strip(y0: int, y1: int) -> None:
        for name, plane in picture.planes.items():
            smaller[name][y0:y1] = plane[box.y0 + y0 : box.y0 + y1, box.x0 : box.x1]

    for_strips(box.height, box.width * len(smaller), strip)
    area = box.shift(window.x0, window.y0)
    return type(picture)(smaller, area, picture.display_window, data_planes=picture.data_planes)
