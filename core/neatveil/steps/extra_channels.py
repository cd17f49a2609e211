"""Steps on an extra channel of the element, such as depth: carried beside R, G, B, A from step to step."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..errors import ValueRefused
from ..picture import RGBA, PremultipliedPicture, plane_over, whole_frame
from .base import Fetch


def apply_to_extra_channel(
    picture: PremultipliedPicture, name: str, fetch: Fetch | None,
    work: Callable[[PremultipliedPicture], PremultipliedPicture],
) -> PremultipliedPicture:  # fmt: skip
    """The picture with one extra plane changed by ``work``, which is given it as an opaque grey picture.

    The plane is taken from the picture, where a step before has changed it, or from the element. R, G, B and
    A keep every bit.
    """
    full = whole_picture(picture)
    if name not in full.planes:
        if fetch is None:
            raise ValueRefused(f"There is no channel {name}.", advice="Choose one that the element has.")
        found = fetch("", (name,))
        full = full.with_planes(
            {**full.planes, name: plane_over(found[name], found.data_window, full.data_window)}
        )
    plane = full[name]
    grey = PremultipliedPicture(
        {"R": plane, "G": plane, "B": plane, "A": np.ones_like(plane)}, full.data_window, full.display_window
    )
    done = work(grey)
    changed = plane_over(done["R"], done.data_window, full.data_window)
    return PremultipliedPicture(
        {**full.planes, name: changed}, full.data_window, full.display_window,
        data_planes={*full.data_planes, name},
    )  # fmt: skip


def with_extra_planes_of(after: PremultipliedPicture, before: PremultipliedPicture) -> PremultipliedPicture:
    """What a step on R, G, B, A made, with the extra planes that were there before it."""
    extra = [n for n in before.planes if n not in RGBA]
    if not extra or all(n in after.planes for n in extra):
        return after
    full = whole_picture(after)
    kept = {n: plane_over(before[n], before.data_window, full.data_window) for n in extra}
    return PremultipliedPicture(
        {**full.planes, **kept}, full.data_window, full.display_window, data_planes=extra
    )


def filling_frame(picture: PremultipliedPicture) -> PremultipliedPicture:
    """All planes over the display window, and over what lies beyond it: 0 where there was nothing."""
    window = picture.data_window
    area = window.around(picture.display_window)
    if window == area:
        return picture
    planes = {n: plane_over(p, window, area) for n, p in picture.planes.items()}
    return PremultipliedPicture(planes, area, picture.display_window, data_planes=picture.data_planes)


def whole_picture(picture: PremultipliedPicture) -> PremultipliedPicture:
    """All planes over the display window."""
    frame = picture.display_window
    if picture.data_window == frame:
        return picture
    full = whole_frame(picture)
    extra = {n: plane_over(p, picture.data_window, frame) for n, p in picture.planes.items() if n not in RGBA}
    return full.with_planes({**full.planes, **extra})
