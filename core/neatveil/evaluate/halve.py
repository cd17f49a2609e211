"""Smaller pictures for the viewer: halved by the mean of 2 x 2 premultiplied pixels."""

from __future__ import annotations

import cv2
import numpy as np

from ..picture import PremultipliedPicture, new_planes


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
