"""Smaller pictures for the viewer: halved by the mean of 2 x 2 premultiplied pixels."""

from __future__ import annotations

import cv2
import numpy as np

from ..picture import Box, PremultipliedPicture, new_planes, plane_over


def halve(picture: PremultipliedPicture) -> PremultipliedPicture:
    """Half the size; odd edges are continued with nothing (0)."""
    box = picture.data_window
    half = box.halved(1)
    left, top = box.x0 - half.x0 * 2, box.y0 - half.y0 * 2
    right = half.x1 * 2 - box.x1
    bottom = half.y1 * 2 - box.y1

    planes = new_planes(picture.planes, half.height, half.width)
    for n, plane in picture.planes.items():
        if left or top or right or bottom:
            plane = np.pad(plane, ((top, bottom), (left, right)))
        size = (half.width, half.height)
        cv2.resize(plane, size, dst=planes[n], interpolation=cv2.INTER_AREA)
    return PremultipliedPicture(
        planes, half, picture.display_window.halved(1), data_planes=picture.data_planes
    )


#: Places on a picture, 0 to 1, that differ by less belong to one surface.
_ALIKE = 0.05


def thinned(picture: PremultipliedPicture, level: int) -> PremultipliedPicture:
    """Made smaller ``level`` times without mixing what does not belong together.

    Of the four pixels around the middle of those that become one the mean where they are alike, else one of
    them.
    """
    step, half = 1 << level, 1 << (level - 1)
    frame = picture.display_window
    small = frame.halved(level)
    wide = Box(small.x0 * step, small.y0 * step, small.x1 * step, small.y1 * step)
    planes = {}
    for n, p in picture.planes.items():
        plane = plane_over(p, picture.data_window, wide)
        four = np.stack([plane[half - j :: step, half - i :: step] for j in (1, 0) for i in (1, 0)])
        alike = four.max(axis=0) - four.min(axis=0) < _ALIKE
        planes[n] = np.where(alike, four.mean(axis=0), four[0]).astype(np.float32)
    return PremultipliedPicture(planes, small, small, data_planes=picture.data_planes)
