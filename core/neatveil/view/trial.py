"""Readings side by side: each at the places where they differ most, over several backgrounds."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from ..alpha import Reading, read
from ..merge.pictures import over
from ..picture import Box, PremultipliedPicture, StoredPicture, cut, whole_frame
from .display import Look, display

#: What readings are judged over, in this order; the plate comes last where there is one.
TRIAL_LOOKS: dict[str, Look] = {
    "black": Look(background="black"),
    "white": Look(background="white"),
    "grey": Look(background="colour", colour=(0.5, 0.5, 0.5)),
    "colour": Look(background="colour", colour=(0.86, 0.1, 0.62)),
}


def trial_sheet(
    stored: StoredPicture, readings: Sequence[Reading], encoding: str, box: Box,
    plate: PremultipliedPicture | None = None,
) -> NDArray[np.uint8]:  # fmt: skip
    """``(readings * box.height, backgrounds * box.width, 4)`` uint8 R, G, B, 255, pixel for pixel.

    A row a reading, a column a background as in `TRIAL_LOOKS`; ``plate``: what lies behind the element,
    of at least the box, for a further column.
    """
    part = cut(whole_frame(stored), box)
    rows = []
    for reading in readings:
        picture = read(part, reading, encoding)
        cells = [display(picture, look) for look in TRIAL_LOOKS.values()]
        if plate is not None:
            cells.append(display(over(picture, cut(whole_frame(plate), box)), Look(background="black")))
        rows.append(np.concatenate(cells, axis=1))
    return np.concatenate(rows, axis=0)
