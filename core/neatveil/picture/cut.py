"""Parts of pictures: one area of a picture, filled up with nothing where the picture does not reach."""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from ..numeric.pool import for_each
from .allocate import new_planes
from .box import Box
from .picture import RGBA, Picture, Plane

P = TypeVar("P", bound=Picture)


def cut(picture: P, area: Box) -> P:
    """R, G, B, A over ``area``; the display window stays. Pixels outside the data window are 0."""
    if picture.data_window == area:
        return picture.with_planes({n: picture[n] for n in RGBA})
    planes = new_planes(RGBA, area.height, area.width)
    for_each(RGBA, lambda n: lay_over(picture[n], picture.data_window, planes[n], area))
    return type(picture)(planes, area, picture.display_window, data_planes=picture.data_planes)


def whole_frame(picture: P) -> P:
    """R, G, B, A over the display window."""
    return cut(picture, picture.display_window)


def plane_over(plane: Plane, own: Box, area: Box) -> Plane:
    """A plane of the window ``own`` over another area, in an array of its own unless they are the same."""
    if own == area:
        return plane
    out = np.empty((area.height, area.width), np.float32)
    lay_over(plane, own, out, area)
    return out


def lay_over(plane: Plane, own: Box, out: Plane, area: Box) -> None:
    """Fill all of ``out``, a plane of ``area``: with the plane of the window ``own``, with 0 beyond it."""
    both = own.intersect(area)
    if both.empty:
        out[:] = 0
        return
    there = both.shift(-area.x0, -area.y0)
    out[: there.y0] = 0
    out[there.y1 :] = 0
    rows = out[there.y0 : there.y1]
    rows[:, : there.x0] = 0
    rows[:, there.x1 :] = 0
    mine = both.shift(-own.x0, -own.y0)
    rows[:, there.x0 : there.x1] = plane[mine.y0 : mine.y1, mine.x0 : mine.x1]
