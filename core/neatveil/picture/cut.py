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
    """R, G, B, A over another area; the display window stays.

    Parameters
    ----------
    picture : of any alpha state.
    area : what the result covers, in pixels of the frame. Outside the data window it is 0.

    Returns
    -------
    A picture of the same state whose data window is ``area``.

    Examples
    --------
    >>> from neatveil.picture import Box, PremultipliedPicture
    >>> one = PremultipliedPicture.from_rgba(np.ones((1, 1, 4), np.float32))
    >>> cut(one, Box(-1, 0, 1, 1))["A"].tolist()
    [[0.0, 1.0]]
    """
    if picture.data_window == area:
        return picture.with_planes({n: picture[n] for n in RGBA})
    planes = new_planes(RGBA, area.height, area.width)
    for_each(RGBA, lambda n: lay_over(picture[n], picture.data_window, planes[n], area))
    return type(picture)(planes, area, picture.display_window, data_planes=picture.data_planes)


def whole_frame(picture: P) -> P:
    """R, G, B, A over the display window.

    Parameters
    ----------
    picture : of any alpha state.

    Returns
    -------
    A picture of the same state whose data window is its display window.

    Examples
    --------
    >>> from neatveil.picture import Box, PremultipliedPicture
    >>> rgba = np.ones((1, 1, 4), np.float32)
    >>> whole_frame(PremultipliedPicture.from_rgba(rgba, Box(0, 0, 3, 1)))["A"].tolist()
    [[1.0, 0.0, 0.0]]
    """
    return cut(picture, picture.display_window)


def plane_over(plane: Plane, own: Box, area: Box) -> Plane:
    """A plane of one window over another area.

    Parameters
    ----------
    plane : ``(H, W)`` over the window ``own``, of any meaning.
    own : where ``plane`` lies.
    area : what the result covers.

    Returns
    -------
    ``(area.height, area.width)``, 0 beyond ``own``; an array of its own unless both are the same.

    Examples
    --------
    >>> from neatveil.picture import Box
    >>> plane_over(np.ones((1, 2), np.float32), Box(0, 0, 2, 1), Box(1, 0, 3, 1)).tolist()
    [[1.0, 0.0]]
    """
    if own == area:
        return plane
    out = np.empty((area.height, area.width), np.float32)
    lay_over(plane, own, out, area)
    return out


def lay_over(plane: Plane, own: Box, out: Plane, area: Box) -> None:
    """Fill all of a plane: with what another one holds, and with 0 beyond that.

    Parameters
    ----------
    plane : ``(H, W)`` over the window ``own``, of any meaning.
    own : where ``plane`` lies.
    out : ``(H, W)`` over ``area``; all of it is written.
    area : where ``out`` lies.

    Examples
    --------
    >>> from neatveil.picture import Box
    >>> out = np.empty((1, 3), np.float32)
    >>> lay_over(np.ones((1, 1), np.float32), Box(1, 0, 2, 1), out, Box(0, 0, 3, 1)); out.tolist()
    [[0.0, 1.0, 0.0]]
    """
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
