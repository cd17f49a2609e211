"""Looking a picture up at places that a map names, filtered by how fast the map runs over it.

A pixel of the result covers a parallelogram of the picture, given by the map's derivative. It is read from a
pyramid of halved pictures, at the level whose pixels are as large as the parallelogram's shorter side and by
several samples along its longer one.

Sources: Williams 1983, pyramidal parametrics, two levels blended [Williams1983]; McCormack et al. 1999,
samples along the longer axis [McCormack1999].
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .gather import BEYOND
from .pool import for_strips
from .pyramid import Pyramid
from .texture_loops import (
    REACH,
    any_mixed,
    any_smaller,
    footprints,
    look_up,
    look_up_cubic,
    look_up_linear,
    look_up_plainly,
    places_of,
    shared_within,
    slopes_of,
)

Floats = NDArray[np.float32]

#: What lies between the picture's pixels where it is enlarged.
BETWEEN = {"linear": 0, "cubic": 1}
#: A pixel that is covered as much is one surface alone.
WHOLE = 0.999


class Map(NamedTuple):
    """A map over a frame: ``(H, W)`` each.

    ``u``, ``v``: its values; ``share``: how much is seen; ``trust``: 1 where a pixel is of one surface alone;
    ``same``: equal for pixels of the same surface.
    """

    u: Floats
    v: Floats
    share: Floats
    trust: NDArray[np.uint8]
    same: NDArray[np.generic]

    @classmethod
    def of(cls, u: Floats, v: Floats, share: Floats, surfaces: Floats | None = None) -> Map:
        """Trusted where a pixel is covered whole; without ``surfaces`` all of it is one."""
        u, v, share = (np.ascontiguousarray(p, np.float32) for p in (u, v, share))
        trust = (share >= WHOLE).view(np.uint8)
        same = np.zeros_like(trust) if surfaces is None else np.ascontiguousarray(surfaces)
        return cls(u, v, share, trust, same)


class LookUp(NamedTuple):
    """How a picture is looked up; ``matrix``: ``(2, 3)`` from a map's values to 0..1 of the picture."""

    matrix: Floats
    filtered: bool
    between: str
    beyond: str


def looked_up(m: Map, pyramid: Pyramid, how: LookUp) -> list[Floats]:
    """R, G, B, A, ``(H, W)`` each: what the map shows of the picture, times the share."""
    height, width = m.u.shape
    out = [new_array((height, width)) for _ in range(4)]
    # the plain way works in little memory: strips of more rows cost fewer calls
    in_cache = -(-width // 4) if _is_direct(how) else width
    for_strips(height, in_cache, lambda a, b: _rows(m, pyramid, how, a, [p[a:b] for p in out]))
    return out


def _is_direct(how: LookUp) -> bool:
    return not how.filtered and how.between == "linear"


def _rows(m: Map, pyramid: Pyramid, how: LookUp, first: int, out: Sequence[Floats]) -> None:
    """Fill rows ``first`` and on."""
    rows, width = out[0].shape
    end = first + rows
    share, flat = m.share[first:end].reshape(-1), [p.reshape(-1) for p in out]
    whole = _whole_of(pyramid, how)
    if direct := _is_direct(how):
        named = (p[first:end].reshape(-1) for p in (m.u, m.v))
        if not look_up_plainly(*named, share, m.trust[first:end].reshape(-1), how.matrix, *whole, *flat):
            return
    s, t = new_array((rows, width)), new_array((rows, width))
    # what is not trusted is continued from as far as REACH
    above, below = max(0, first - REACH), min(m.u.shape[0], end + REACH)
    slopes = _NONE
    if how.filtered or any_mixed(share, m.trust[first:end].reshape(-1)):
        slopes = new_array((4, below - above, width))
        slopes_of(m.u, m.v, m.trust, m.same, above, slopes)
    places_of(m.u, m.v, m.share, m.trust, slopes, how.matrix, first, above, s, t)
    places = s.reshape(-1), t.reshape(-1)
    prints = None if direct else _footprints(s, slopes[:, first - above : end - above], pyramid, how)
    if prints is None or (how.between == "linear" and not any_smaller(places[0], prints.probes)):
        look_up_linear(*places, share, *whole, *flat)
        return
    found = new_array((4 * rows * width,))
    look_up(*places, *prints, whole.pixels, *pyramid[1:], whole.beyond, found)
    if how.between == "cubic":
        look_up_cubic(*places, prints.probes, *whole, found)
    shared_within(found, share, *flat)


#: Where no slopes are needed.
_NONE = np.zeros((4, 1, 1), np.float32)


class _Whole(NamedTuple):
    """The picture itself, its ``pixels`` flat, and how it goes on."""

    pixels: Floats
    width: int
    height: int
    beyond: int


def _whole_of(pyramid: Pyramid, how: LookUp) -> _Whole:
    size = int(pyramid.widths[0]), int(pyramid.heights[0])
    return _Whole(pyramid.pixels.reshape(-1), *size, BEYOND[how.beyond])


class _Footprints(NamedTuple):
    """What pixels cover of the picture, of each: see `footprints`."""

    lengths: Floats
    probes: NDArray[np.int32]
    ds: Floats
    dt: Floats


def _footprints(s: Floats, slopes: Floats, pyramid: Pyramid, how: LookUp) -> _Footprints:
    lengths, ds, dt = (new_array((s.size,)) for _ in range(3))
    each = _Footprints(lengths, new_array((s.size,), np.int32), ds, dt)
    if how.filtered:
        size = np.float32(pyramid.widths[0]), np.float32(pyramid.heights[0])
        footprints(s.reshape(-1), *(p.reshape(-1) for p in slopes), how.matrix, *size, *each)
    else:
        lengths[:] = 1
        each.probes[:] = ds[:] = dt[:] = 0
    return each
