"""Straight colour past the edge: what a file holds where its alpha is 0, so that no filter finds black there.

Whoever scales, blurs or compresses a straight file mixes neighbouring colours before the alpha is multiplied
in. Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np

from ..picture import RGB, Plane

#: Coverage from which on a pixel's own colour is taken for others: below it is divided by next to nothing.
_SURE = np.float32(1 / 64)


def past_edge(planes: Mapping[str, Plane], pixels: int) -> dict[str, Plane]:
    """R, G, B of straight code values with the nearest surface's colour where nothing is.

    Parameters
    ----------
    planes : R, G, B, A, ``(H, W)``, straight; not changed.
    pixels : how far from the edge colour is carried; 0 changes nothing.

    Returns
    -------
    The planes with R, G and B filled where A is 0 and a covered pixel is at most that far away.

    Examples
    --------
    >>> import numpy as np
    >>> row = {n: np.array([[0.25, 0, 0, 0]], np.float32) for n in "RGB"}
    >>> alpha = np.array([[1, 0, 0, 0]], np.float32)
    >>> past_edge({**row, "A": alpha}, 2)["R"].tolist()
    [[0.25, 0.25, 0.25, 0.0]]
    """
    alpha = planes["A"]
    empty = alpha <= 0
    if pixels <= 0 or not empty.any() or empty.all():
        return dict(planes)
    # the surface and its surroundings alone: most layers fill a part of the frame
    rows, columns = np.flatnonzero(~empty.all(axis=1)), np.flatnonzero(~empty.all(axis=0))
    y0, y1 = max(0, int(rows[0]) - pixels), min(alpha.shape[0], int(rows[-1]) + 1 + pixels)
    x0, x1 = max(0, int(columns[0]) - pixels), min(alpha.shape[1], int(columns[-1]) + 1 + pixels)
    part = np.s_[y0:y1, x0:x1]
    here, none = alpha[part], empty[part]
    sure = here >= _SURE
    if not sure.any():
        sure = ~none
    away, labels = cv2.distanceTransformWithLabels(
        (~sure).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL
    )
    places = np.zeros(int(labels.max()) + 1, np.int64)
    places[labels[sure]] = np.flatnonzero(sure)
    wanted = none & (away <= np.float32(pixels + 0.5))
    taken = places[labels[wanted]]
    filled = dict(planes)
    for name in RGB:
        plane = planes[name].copy()
        inside = plane[part]
        inside[wanted] = planes[name][part].reshape(-1)[taken]
        filled[name] = plane
    return filled
