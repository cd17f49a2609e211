"""Any channel or pass of an element as a picture to look at."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..colour import decode
from ..picture import RGBA, Plane, PremultipliedPicture, StoredPicture

#: As far above all else as nothing real is: what stands for "nothing there" in depth and position.
ALONE = 4.0


def channel_picture(
    stored: StoredPicture, names: Sequence[str], encoding: str, *, stretch: bool = False
) -> PremultipliedPicture:
    """One channel as grey, two as red and green, three as red, green and blue; opaque.

    Colour is decoded as it is in the element. Data is shown as it is stored: a value of 0.5 is the code
    128. ``stretch``: black is the least value of the frame and white the largest, for what lies beyond 0..1;
    several channels share one range, with 0 in its middle where values go below 0.
    """
    planes = [stored[n] for n in names[:3]]
    codes = [n in stored.data_planes or n == "A" or stretch for n in names[:3]]
    nothing = np.float32(0)  # where 0 lies
    if stretch:
        low, high = _range_of(planes)
        nothing = np.float32(min(max(-low / max(high - low, 1e-12), 0), 1))
        planes = [(p - np.float32(low)) / np.float32(max(high - low, 1e-12)) for p in planes]
    shown = [_shown(p, "srgb" if c else encoding) for p, c in zip(planes, codes, strict=True)]
    if len(shown) == 2:
        shown.append(_shown(np.full_like(planes[0], nothing), "srgb"))
    if len(shown) == 1:
        shown *= 3
    laid = dict(zip(RGBA, [*shown, np.ones_like(shown[0])], strict=True))
    return PremultipliedPicture(laid, stored.data_window, stored.display_window)


def _range_of(planes: list[Plane]) -> tuple[float, float]:
    found = [r for p in planes if (r := value_range(p))]
    if not found:
        return 0.0, 1.0
    low, high = min(r[0] for r in found), max(r[1] for r in found)
    if len(planes) > 1 and low < 0:
        high = max(-low, high)
        low = -high
    return low, high


def value_range(plane: Plane) -> tuple[float, float] | None:
    """Least and largest value that are something; None where nothing is a number.

    A largest value that many pixels share far above all others stands for nothing, as renderers write it
    where a ray hits nothing: it is left out.
    """
    sound = plane[np.isfinite(plane)]
    if not sound.size:
        return None
    low, high = float(sound.min()), float(sound.max())
    rest = sound[sound < high]
    if rest.size and sound.size - rest.size > sound.size // 1000:
        below = float(rest.max())
        if high - low > ALONE * (below - low) and below > low:
            high = below
    return low, high


def _shown(plane: Plane, encoding: str) -> Plane:
    sane = np.ascontiguousarray(np.nan_to_num(plane, posinf=1.0, neginf=0.0), np.float32)
    return decode(sane, encoding)
