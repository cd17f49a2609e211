"""Leaving out the empty border of a picture: a caption need not be carried as a whole frame."""

from __future__ import annotations

from collections.abc import Iterable
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
def _bounds(plane, left_right, top_bottom):  # type: ignore[no-untyped-def]
    """Widen the bounds ``[left, right)``, ``[top, bottom)`` to all values that are not 0."""
    width = plane.shape[1]
    for y in range(plane.shape[0]):
        row = plane[y]
        first = 0
        while first < width and row[first] == 0:
            first += 1
        if first == width:
            continue
        last = width
        while row[last - 1] == 0:
            last -= 1
        left_right[0] = min(left_right[0], first)
        left_right[1] = max(left_right[1], last)
        top_bottom[0] = min(top_bottom[0], y)
        top_bottom[1] = max(top_bottom[1], y + 1)


def _widen(plane: Plane, x: NDArray[np.int64], y: NDArray[np.int64]) -> None:
    """The bounds, to hold the values of a plane that are not 0; strip by strip."""
    height, width = plane.shape
    parts: list[tuple[int, NDArray[np.int64], NDArray[np.int64]]] = []

    def strip(first: int, end: int) -> None:
        own_x, own_y = np.array([width, 0]), np.array([end - first, 0])
        _bounds(plane[first:end], own_x, own_y)
        parts.append((first, own_x, own_y))

    for_strips(height, width, strip)
    for first, own_x, own_y in parts:
        if own_x[1] > own_x[0]:
            x[0], x[1] = min(x[0], own_x[0]), max(x[1], own_x[1])
            y[0], y[1] = min(y[0], first + own_y[0]), max(y[1], first + own_y[1])


def trimmed(picture: P, names: Iterable[str] | None = None) -> P:
    """The same picture with a data window that leaves out borders of 0 in every plane.

    ``names``: the planes that are looked at, where others do not matter. The display window
    stays. The picture itself comes back where little would be left out.
    """
    window = picture.data_window
    x, y = np.array([window.width, 0]), np.array([window.height, 0])
    for name in picture.planes if names is None else names:
        _widen(picture[name], x, y)
        if (x[1] - x[0]) * (y[1] - y[0]) > (1 - WORTH) * window.width * window.height:
            return picture
    if x[1] <= x[0]:
        x, y = np.array([0, 1]), np.array([0, 1])  # nothing anywhere: one empty pixel
    box = Box(int(x[0]), int(y[0]), int(x[1]), int(y[1]))
    planes = new_planes(picture.planes, box.height, box.width)
    for name, plane in picture.planes.items():
        planes[name][:] = plane[box.y0 : box.y1, box.x0 : box.x1]
    area = box.shift(window.x0, window.y0)
    return type(picture)(planes, area, picture.display_window, data_planes=picture.data_planes)
