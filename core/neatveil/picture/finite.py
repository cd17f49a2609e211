"""Values that are no numbers taken out, before they spread to their neighbours."""

from __future__ import annotations

import numpy as np

from .picture import RGBA, Plane, PremultipliedPicture


def finite_picture(picture: PremultipliedPicture) -> PremultipliedPicture:
    """With 0 in the place of NaN and infinities, which would spread where pixels are mixed."""
    if picture.finite():
        return picture
    return picture.with_planes({**picture.planes, **{n: finite_plane(picture[n]) for n in RGBA}})


def finite_plane(plane: Plane) -> Plane:
    """A plane with 0 in the place of NaN and infinities; itself where there are none."""
    return plane if np.isfinite(plane.sum()) else np.nan_to_num(plane, nan=0, posinf=0, neginf=0)
