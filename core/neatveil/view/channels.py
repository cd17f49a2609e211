"""Any channel or pass of an element as a picture to look at."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..colour import decode
from ..picture import RGBA, Plane, PremultipliedPicture, StoredPicture


def channel_picture(
    stored: StoredPicture, names: Sequence[str], encoding: str, *, stretch: bool = False
) -> PremultipliedPicture:
    """One channel as grey, two as red and green, three as red, green and blue; opaque.

    Colour is decoded as it is in the element. Data is shown as it is stored: a value of 0.5 is the code
    128. ``stretch``: black is the least value of the frame and white the largest, for what lies beyond 0..1.
    """
    shown = [_shown(stored, n, encoding, stretch) for n in names[:3]]
    while len(shown) == 2:
        shown.append(np.zeros_like(shown[0]))
    if len(shown) == 1:
        shown *= 3
    planes = dict(zip(RGBA, [*shown, np.ones_like(shown[0])], strict=True))
    return PremultipliedPicture(planes, stored.data_window, stored.display_window)


def _shown(stored: StoredPicture, name: str, encoding: str, stretch: bool) -> Plane:
    plane = stored[name]
    codes = name in stored.data_planes or name == "A" or stretch
    if stretch:
        sound = plane[np.isfinite(plane)]
        low, high = (float(sound.min()), float(sound.max())) if sound.size else (0.0, 1.0)
        plane = (plane - np.float32(low)) / np.float32(max(high - low, 1e-12))
    sane = np.ascontiguousarray(np.nan_to_num(plane, posinf=1.0, neginf=0.0), np.float32)
    return decode(sane, "srgb" if codes else encoding)
