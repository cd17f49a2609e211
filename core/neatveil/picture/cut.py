"""Parts of pictures: one area of a picture, filled up with nothing where the picture does not reach."""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from .allocate import new_planes
from .box import Box
from .picture import RGBA, Picture, Plane

P = TypeVar("P", bound=Picture)


def cut(picture: P, area: Box) -> P:
    """R, G, B, A over ``area``; the display window stays. Pixels outside the data window are 0."""
    if picture.data_window == area:
        return picture.with_planes({n: picture[n] for n in RGBA})
    planes = new_planes(RGBA, area.height, area.width, zero=True)
    for n in RGBA:
        _lay(picture[n], picture.data_window, planes[n], area)
    return type(picture)(planes, area, picture.display_window, data_planes=picture.data_planes)


def whole_frame(picture: P) -> P:
    """R, G, B, A over the display window."""
    return cut(picture, picture.display_window)


def plane_over(plane: Plane, own: Box, area: Box) -> Plane:
    """A plane of the window ``own`` over another area, in an array of its own unless they are the same."""
    if own == area:
        return plane
    out = np.zeros((area.height, area.width), np.float32)
    _lay(plane, own, out, area)
    return out


def _lay(plane: Plane, own: Box, out: Plane, area: Box) -> None:
    both = own.intersect(area)
    if not both.empty:
        out[both.y0 - area.y0 : both.y1 - area.y0, both.x0 - area.x0 : both.x1 - area.x0] = plane[
            both.y0 - own.y0 : both.y1 - own.y0, both.x0 - own.x0 : both.x1 - own.x0
        ]
