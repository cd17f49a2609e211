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

import cv2
import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .pool import for_strips
from .pyramid import Pyramid
from .texture_loops import (
    REACH,
    add_level,
    any_mixed,
    footprints,
    level_places,
    look_up,
    look_up_cubic,
    places_of,
    plain_places,
    range_of,
    shared,
    shared_within,
    slopes_of,
    to_pixels,
)

Floats = NDArray[np.float32]

#: How a picture goes on beyond its edges.
BEYOND = {"wrap": 0, "mirror": 1, "clamp": 2, "clear": 3}
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
    for_strips(height, width, lambda a, b: _rows(m, pyramid, how, a, [p[a:b] for p in out]))
    return out


def _rows(m: Map, pyramid: Pyramid, how: LookUp, first: int, out: Sequence[Floats]) -> None:
    """Fill rows ``first`` and on."""
    rows, width = out[0].shape
    end = first + rows
    s, t = new_array((rows, width)), new_array((rows, width))
    direct = not how.filtered and how.between == "linear"
    if direct and _plainly(m, pyramid, how, first, s, t, out):
        return
    # what is not trusted is continued from as far as REACH
    above, below = max(0, first - REACH), min(m.u.shape[0], end + REACH)
    share = m.share[first:end]
    slopes = _NONE
    if how.filtered or any_mixed(share.reshape(-1), m.trust[first:end].reshape(-1)):
        slopes = new_array((4, below - above, width))
        slopes_of(m.u, m.v, m.trust, m.same, above, slopes)
    places_of(m.u, m.v, m.share, m.trust, slopes, how.matrix, first, above, s, t)
    prints = None if direct else _Footprints.of(s, slopes[:, first - above : end - above], pyramid, how)
    if prints is None or (how.between == "linear" and prints.enlarged):
        seen = new_array(share.shape)
        flat = s.reshape(-1), t.reshape(-1), share.reshape(-1), seen.reshape(-1)
        to_pixels(*flat, *_size_of(pyramid))
        _by_opencv(s, t, seen, pyramid, how.beyond, out)
        return
    found = new_array((4 * rows * width,))
    _filtered(s, t, prints, pyramid, how, found)
    shared_within(found, share.reshape(-1), *(p.reshape(-1) for p in out))


#: Where no slopes are needed.
_NONE = np.zeros((4, 1, 1), np.float32)


def _filtered(
    s: Floats, t: Floats, prints: _Footprints, pyramid: Pyramid, how: LookUp, found: Floats
) -> None:
    """``found``, four a pixel, flat."""
    if prints.levels:
        _by_levels(s, t, prints, pyramid, how.beyond, found)
        return
    pixels, beyond = pyramid.pixels.reshape(-1), BEYOND[how.beyond]
    places = s.reshape(-1), t.reshape(-1)
    look_up(*places, *prints.each, pixels, *pyramid[1:], beyond, found)
    if how.between == "cubic":
        size = pyramid.widths[0], pyramid.heights[0]
        look_up_cubic(*places, prints.each.probes, pixels, *size, beyond, found)


class _Each(NamedTuple):
    """Of every pixel: see `footprints`."""

    lengths: Floats
    probes: NDArray[np.int32]
    ds: Floats
    dt: Floats


class _Footprints(NamedTuple):
    """What some pixels cover of the picture.

    ``enlarged``: none covers more than a pixel of it. ``levels``: those of the pyramid, where each pixel is
    one sample of few of them; empty otherwise.
    """

    each: _Each
    enlarged: bool
    levels: range

    @classmethod
    def of(cls, s: Floats, slopes: Floats, pyramid: Pyramid, how: LookUp) -> _Footprints:
        lengths, ds, dt = (new_array((s.size,)) for _ in range(3))
        each = _Each(lengths, new_array((s.size,), np.int32), ds, dt)
        if not how.filtered:
            lengths[:] = 1
            each.probes[:] = ds[:] = dt[:] = 0
            return cls(each, False, range(0))
        along = (p.reshape(-1) for p in slopes)
        footprints(s.reshape(-1), *along, how.matrix, *_size_of(pyramid), *each)
        found = np.empty(4, np.float32)
        range_of(s.reshape(-1), lengths, each.probes, found)
        fewest, most, least, largest = found
        if not np.isfinite(least) or most == 0:
            return cls(each, True, range(0))
        last = len(pyramid.widths) - 1
        low, high = int(np.log2(least)), int(np.log2(largest)) + 1
        alike = fewest == most == 1 and high - low < MOST_LEVELS and high <= last
        return cls(each, False, range(low, high + 1) if alike else range(0))


#: As many levels are looked up whole and blended where pixels are of a sample each.
MOST_LEVELS = 3


def _by_levels(
    s: Floats, t: Floats, prints: _Footprints, pyramid: Pyramid, beyond: str, found: Floats
) -> None:
    """``found``, four a pixel, flat: each level by OpenCV, faster than an own loop, and blended."""
    x, y = new_array(s.shape), new_array(s.shape)
    found[:] = 0
    for level in prints.levels:
        begin, width, height = (int(n[level]) for n in pyramid[1:])
        size = np.float32(width), np.float32(height)
        level_places(s.reshape(-1), t.reshape(-1), *size, BEYOND[beyond], x.reshape(-1), y.reshape(-1))
        picture = pyramid.pixels[begin : begin + width * height].reshape(height, width, 4)
        add_level(_remapped(picture, x, y, beyond).reshape(-1), prints.each.lengths, level, found)


def _plainly(
    m: Map, pyramid: Pyramid, how: LookUp, first: int, s: Floats, t: Floats, out: Sequence[Floats]
) -> bool:
    """The rows where each pixel is one surface alone; False where one is not."""
    rows = slice(first, first + len(s))
    given = (p[rows].reshape(-1) for p in (m.u, m.v, m.share, m.trust))
    seen = new_array(s.shape)
    into = s.reshape(-1), t.reshape(-1), seen.reshape(-1)
    if plain_places(*given, how.matrix, *_size_of(pyramid), *into):
        return False
    _by_opencv(s, t, seen, pyramid, how.beyond, out)
    return True


def _size_of(pyramid: Pyramid) -> tuple[np.float32, np.float32]:
    return np.float32(pyramid.widths[0]), np.float32(pyramid.heights[0])


def _by_opencv(
    s: Floats, t: Floats, seen: Floats, pyramid: Pyramid, beyond: str, out: Sequence[Floats]
) -> None:
    """The picture itself by bilinear weights, times what is ``seen``; three times as fast as an own loop.

    ``s``, ``t``: places in its pixels, from the first one's centre.
    """
    width, height = int(pyramid.widths[0]), int(pyramid.heights[0])
    picture = pyramid.pixels[: width * height].reshape(height, width, 4)
    found = _remapped(picture, s, t, beyond)
    shared(found.reshape(-1), seen.reshape(-1), *(p.reshape(-1) for p in out))


def _remapped(picture: Floats, x: Floats, y: Floats, beyond: str) -> Floats:
    border = _BORDERS[beyond]
    found = cv2.remap(picture, x, y, cv2.INTER_LINEAR, borderMode=border, borderValue=(0, 0, 0, 0))
    return np.asarray(found, np.float32)


_BORDERS = {
    "wrap": cv2.BORDER_WRAP, "mirror": cv2.BORDER_REFLECT, "clamp": cv2.BORDER_REPLICATE,
    "clear": cv2.BORDER_CONSTANT,
}  # fmt: skip
