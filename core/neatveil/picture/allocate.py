"""Memory for planes: one block a picture.

Four planes cut from one block get huge pages where four small ones of their own would not.
"""

from __future__ import annotations

from collections.abc import Iterable

from ..numeric.blocks import new_array
from .picture import Plane

#: Planes begin this many samples further apart than they are large. Planes of usual sizes would
#: else lie whole pages apart, and the same place in each of them would fall into one set of the
#: processor's first cache, which holds fewer lines than a merge has planes.
_APART = 13 * 16


def new_planes(names: Iterable[str], height: int, width: int, *, zero: bool = False) -> dict[str, Plane]:
    """New planes by name.

    Parameters
    ----------
    names : such as R, G, B, A.
    height, width : in pixels.
    zero : whether they hold 0; else whatever the memory held.

    Returns
    -------
    C-contiguous float32 planes ``(height, width)``.

    Examples
    --------
    >>> new_planes(["A"], 1, 2, zero=True)["A"].tolist()
    [[0.0, 0.0]]
    """
    names = tuple(names)
    stride = -(-height * width // 16) * 16 + _APART
    block = new_array((len(names) * stride,), zero=zero)
    return {n: block[i * stride :][: height * width].reshape(height, width) for i, n in enumerate(names)}
