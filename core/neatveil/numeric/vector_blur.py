"""Blurring a picture by how its pixels move: the mean of what is seen at moments of an open shutter.

At a moment a pixel shows what has moved there. It is looked for backwards: by the pixel's own movement and by
those of whatever reaches it, each followed to a place whose own movement ends at the pixel. Of what is found
the nearest to the camera is seen. Where nothing is found something came in sight that no pixel shows: what
lies beside it, further back, stands for it.

Sources: backward warping with several starting vectors, Yang and others 2011 [Yang2011]; tiles that know what
reaches them, McGuire and others 2012 [McGuire2012].
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .edge_data import carried_over_edge
from .gather import BEYOND
from .pool import for_each, for_strips
from .pyramid import interleave
from .vector_blur_loops import IN_TILE, REACHING, TILE, courses, mean_rows, spread, survey

Floats = NDArray[np.float32]

#: Rows that are done at once.
ROWS = 24


def moments_of(samples: int, shutter: float, phase: float) -> Floats:
    """In frames: spread evenly over the time in which the shutter is open, whose middle is ``phase``."""
    return np.asarray([phase + shutter * ((i + 0.5) / samples - 0.5) for i in range(samples)], np.float32)


def vector_blurred(
    planes: Sequence[Floats], vx: Floats, vy: Floats, front: Floats, moments: Floats, *, clear: bool
) -> list[Floats]:
    """R, G, B, A, ``(H, W)`` each, premultiplied, as ``planes`` are.

    ``vx``, ``vy``: pixels a frame, right and down, all finite; ``front``: more where something is nearer;
    ``clear``: nothing lies beyond the frame, instead of its last pixels again.
    """
    height, width = vx.shape
    vx, vy, front = carried_over_edge([vx, vy, front], planes[3])
    down, across = -(-height // TILE), -(-width // TILE)
    movements = np.zeros((down, across, IN_TILE, 2), np.float32)
    counts, torn = np.zeros((2, down, across), np.int64)
    for_strips(down, width * TILE, lambda a, b: survey(vx, vy, a, b, movements, counts, torn))
    reaching = np.zeros((down, across, REACHING, 2), np.float32)
    reach_counts, reach_torn = np.zeros((2, down, across), np.int64)
    begins, ends = moments.min(initial=0), moments.max(initial=0)
    spread(movements, counts, torn, begins, ends, reaching, reach_counts, reach_torn)
    pixels = new_array((height, width, 4))
    interleave(planes, pixels)
    out = new_array((4, height, width))
    flat, beyond = pixels.reshape(-1), BEYOND["clear" if clear else "clamp"]

    def rows(y: int) -> None:
        count = min(ROWS, height - y)
        way, mode = np.empty((4, count, width), np.float32), np.empty((count, width), np.uint8)
        torn_rows = np.empty(count, np.bool_)
        courses(vx, vy, begins, ends, reach_counts, reach_torn, y, way, mode, torn_rows)
        mean_rows(
            vx, vy, front, moments, reaching, reach_counts, way, mode, torn_rows, y, flat, beyond,
            *(p[y : y + count] for p in out),
        )  # fmt: skip

    for_each(range(0, height, ROWS), rows)
    return list(out)
