"""The difference of two pictures, as a picture to look at."""

from __future__ import annotations

import numpy as np

from ..colour import decode, encode
from ..picture import RGB, PremultipliedPicture, cut


def difference(
    one: PremultipliedPicture, other: PremultipliedPicture, gain: float = 1.0, *, alpha: bool = False
) -> PremultipliedPicture:
    """How far two pictures lie apart over black, in sRGB code values times ``gain``; opaque.

    ``alpha``: of their alphas instead, as grey. The frame is the first one's; where the other does not
    reach, it counts as nothing.
    """
    area = one.data_window.around(other.data_window.intersect(one.display_window))
    a, b = cut(one, area), cut(other, area)
    planes = {}
    for n in RGB:
        if alpha:
            off = np.abs(a["A"] - b["A"])
        else:
            off = np.abs(encode(a[n], "srgb") - encode(b[n], "srgb"))
        planes[n] = decode(np.clip(off * np.float32(gain), 0, 1), "srgb")
    planes["A"] = np.ones_like(planes["R"])
    return PremultipliedPicture(planes, area, one.display_window)
