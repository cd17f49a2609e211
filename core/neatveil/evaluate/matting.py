"""Mattes over a layer's own picture: every part brought to its pixels, put together, and the picture cut."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import cv2
import numpy as np

from ..channels.pick import picked
from ..comp import Place
from ..mattes import Matte, Part
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, cut, plane_over
from ..steps.further import whole_picture
from ..steps.two import fitted
from ..steps.value import coded
from ..steps.warp import FILTERS
from .placing import placing

#: A source's place, the own layer's, the comp's size and the source's size.
Places = tuple[Place, Place, tuple[int, int], tuple[int, int]]


class Held(NamedTuple):
    """A part, the picture that it is read from, and both places where it is read as it lies in the comp."""

    part: Part
    picture: PremultipliedPicture
    places: Places | None


def matte_over(
    matte: Matte, own: PremultipliedPicture, level: int, held: Iterable[Held], own_size: tuple[int, int]
) -> Plane:
    """``(H, W)`` 0..1 over the display window of ``own``, at its level. ``own_size``: unhalved."""
    planes = [row.part.kept(_brought(row, own, level, own_size)) for row in held]
    window = own.display_window
    if not planes:
        return matte.refined(np.ones((window.height, window.width), np.float32), level)
    return matte.refined(matte.joined(planes), level)


def _brought(row: Held, own: PremultipliedPicture, level: int, own_size: tuple[int, int]) -> Plane:
    part, window = row.part, own.display_window
    picture = whole_picture(row.picture)
    code = coded if part.space == "codes" else None
    plane = picked(picture.planes, part.channel, weights=part.weights, code=code)
    if row.places is not None:
        return _as_placed(plane, row.places, level, own_size, (window.width, window.height))
    alone = PremultipliedPicture({"A": plane}, picture.data_window, picture.display_window)
    return fitted(alone, PremultipliedPicture({}, window, window), part.fit)["A"]


def _as_placed(
    plane: Plane, places: Places, level: int, own_size: tuple[int, int], shape: tuple[int, int]
) -> Plane:
    """The plane as it lies in the comp, seen from the own layer's pixels: one resampling for both places."""
    theirs, mine, comp, size = places
    # corner coordinates of full pictures: source <- comp <- own
    to_source = _full(placing(theirs, comp, size, 0).matrix, placing(theirs, comp, size, 0).source_level)
    to_own = _full(placing(mine, comp, own_size, 0).matrix, placing(mine, comp, own_size, 0).source_level)
    whole = to_source @ np.linalg.inv(to_own)
    share = 2.0**level
    scaled = np.diag([1 / share, 1 / share, 1]) @ whole @ np.diag([share, share, 1])
    centre = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(centre) @ scaled @ centre
    if np.allclose(matrix, np.eye(3), atol=1e-9) and plane.shape == (shape[1], shape[0]):
        return plane
    moved = cv2.warpAffine(
        np.ascontiguousarray(plane), matrix[:2], shape, flags=FILTERS[theirs.filter] | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_CONSTANT, borderValue=0,
    )  # fmt: skip
    return np.asarray(moved, np.float32)


def _full(
    matrix: np.ndarray[tuple[int, ...], np.dtype[np.float64]], source_level: int
) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    """A placing's matrix into pixels of the unhalved source, 3 x 3."""
    share = 2.0**source_level
    return np.vstack([np.diag([share, share]) @ matrix, [0, 0, 1]])


def matted(picture: PremultipliedPicture, matte: Plane) -> PremultipliedPicture:
    """R, G, B, A times the matte; light goes with the rest. ``matte``: over the display window."""
    window = picture.data_window
    part = plane_over(matte, picture.display_window, window)
    given = cut(picture, window)
    planes = {n: np.empty_like(p) for n, p in given.planes.items()}

    def strip(y0: int, y1: int) -> None:
        for n, out in planes.items():
            np.multiply(given[n][y0:y1], part[y0:y1], out=out[y0:y1])

    for_strips(window.height, window.width, strip)
    return picture.with_planes({**picture.planes, **planes})
