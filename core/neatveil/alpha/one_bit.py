"""An alpha of one bit: a pixel is covered and has a colour, or is nothing."""

from __future__ import annotations

import numpy as np

from ..picture import StoredPicture


def covered_or_not(stored: StoredPicture) -> StoredPicture:
    """A picture of code values with an alpha of 1 where it was half or more, and nothing elsewhere.

    Parameters
    ----------
    stored : R, G, B and a straight A, or no alpha.

    Returns
    -------
    The picture; the same object where it has no alpha.

    Examples
    --------
    >>> half = StoredPicture.from_rgba(np.array([[[1, 1, 1, 0.6], [1, 1, 1, 0.4]]], np.float32))
    >>> covered_or_not(half).rgba()[0].tolist()
    [[1.0, 1.0, 1.0, 1.0], [0.0, 0.0, 0.0, 0.0]]
    """
    if "A" not in stored.planes:
        return stored
    covered = np.asarray(stored["A"] >= np.float32(0.5), np.float32)
    return stored.with_planes({**{n: p * covered for n, p in stored.planes.items()}, "A": covered})
