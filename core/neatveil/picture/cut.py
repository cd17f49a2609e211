"""Parts of pictures: one area of a picture, filled up with nothing where the picture does not reach."""

from __future__ import annotations

from typing import TypeVar

from .allocate import new_planes
from .box import Box
from .picture import RGBA, Picture

P = TypeVar("P", bound=Picture)


def cut(picture: P, area: Box) -> P:
    """R, G, B, A over ``area``; the display window stays. Pixels outside the data window are 0."""
    if picture.data_window == area:
        return picture.with_planes({n: picture[n] for n in RGBA})
    own, both = picture.data_window, picture.data_window.intersect(area)
    planes = new_planes(RGBA, area.height, area.width, zero=True)
    if not both.empty:
        there = (slice(both.y0 - area.y0, both.y1 - area.y0), slice(both.x0 - area.x0, both.x1 - area.x0))
        here = (slice(both.y0 - own.y0, both.y1 - own.y0), slice(both.x0 - own.x0, both.x1 - own.x0))
        for n in RGBA:
            planes[n][there] = picture[n][here]
    return type(picture)(planes, area, picture.display_window, data_planes=picture.data_planes)


def whole_frame(picture: P) -> P:
    """R, G, B, A over the display window."""
    return cut(picture, picture.display_window)
