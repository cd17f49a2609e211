"""A picture of why 8 bits are too few for a UV pass: what lies on the surface jumps from block to block."""

from __future__ import annotations

from typing import NamedTuple

import cv2
import numpy as np

from ..numeric.pyramid import pyramid_of
from ..numeric.texture import LookUp, Map, looked_up
from ..picture import RGBA, Plane, PremultipliedPicture, StoredPicture

#: Side of the picture that is laid on the surface, and from one of its rings to the next, pixels.
_ART, _RING = 2048, 48
#: Width and height of the place that is looked at, pixels, and how much it is enlarged.
_PLACE, _LARGER = (72, 81), 4
_HOW = LookUp(np.array([[1, 0, 0], [0, 1, 0]], np.float32), False, "linear", "wrap")


class CoarseUV(NamedTuple):
    """``picture``: rings laid on the surface at the coarsest place, enlarged: by the pass as it is, and
    beside it by its values smoothed, as more bits would have them. ``block``: pixels across of one value.
    """

    picture: PremultipliedPicture
    block: float
    place: tuple[int, int]


def coarse_uv(stored: StoredPicture, u: str, v: str) -> CoarseUV | None:
    """The coarsest place of a UV pass; None where no value stays the same from a pixel to the next.

    Parameters
    ----------
    stored : its codes, with the channels ``u`` and ``v``.
    """
    across = _run_lengths(stored[u], stored[v])
    if across is None:
        return None
    wide, high = (min(a, b) for a, b in zip(_PLACE, stored[u].shape[::-1], strict=True))
    lengths, there = across
    # the mean over each place that begins at a multiple of its half size
    best, place = 0.0, (0, 0)
    for y in range(0, max(1, stored[u].shape[0] - high + 1), max(1, high // 2)):
        for x in range(0, max(1, stored[u].shape[1] - wide + 1), max(1, wide // 2)):
            inside = there[y : y + high, x : x + wide]
            if inside.mean() > 0.5:
                mean = float(lengths[y : y + high, x : x + wide][inside].mean())
                best, place = max((best, place), (mean, (x, y)))
    if best < 1.5:
        return None
    x, y = place
    part = [np.ascontiguousarray(stored[n][y : y + high, x : x + wide]) for n in (u, v)]
    smooth = [_smooth(p, best) for p in part]
    beside = [np.hstack([_larger(p), _larger(q)]) for p, q in zip(part, smooth, strict=True)]
    places = Map.of(beside[0], beside[1], np.ones_like(beside[0]))
    shown = looked_up(places, pyramid_of(_rings(), False), _HOW)
    return CoarseUV(PremultipliedPicture(dict(zip(RGBA, shown, strict=True))), best, place)


def _smooth(plane: Plane, size: float) -> Plane:
    return cv2.GaussianBlur(plane, (0, 0), size, borderType=cv2.BORDER_REPLICATE).astype(np.float32)


def _larger(plane: Plane) -> Plane:
    return np.kron(plane, np.ones((_LARGER, _LARGER), np.float32)).astype(np.float32)


def _run_lengths(u: Plane, v: Plane) -> tuple[Plane, np.ndarray[tuple[int, int], np.dtype[np.bool_]]] | None:
    """How many pixels in a row have one value, at each of them, and where the surface is at all."""
    there = np.isfinite(u) & np.isfinite(v) & ((u != 0) | (v != 0))
    if not there.any():
        return None
    same = np.zeros(u.shape, bool)
    same[:, 1:] = (u[:, 1:] == u[:, :-1]) & (v[:, 1:] == v[:, :-1]) & there[:, 1:]
    lengths = np.zeros(u.shape, np.float32)
    for row, goes_on in zip(lengths, same, strict=True):
        begins = np.flatnonzero(~goes_on)
        row[:] = np.repeat(np.diff(np.append(begins, row.size)), np.diff(np.append(begins, row.size)))
    return lengths, there


def _rings() -> list[Plane]:
    """Smooth rings around the corner, opaque."""
    y, x = np.mgrid[:_ART, :_ART].astype(np.float32)
    light = np.float32(0.3) + np.float32(0.28) * np.sin(np.hypot(x, y) * np.float32(2 * np.pi / _RING))
    return [light, light, light, np.ones_like(light)]
