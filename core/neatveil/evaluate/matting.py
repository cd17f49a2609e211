"""Mattes over a layer's own picture: every part brought to its pixels, put together, and the picture cut."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from ..channels.pick import picked
from ..comp import Place
from ..mattes import Matte, Part
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, cut, plane_over
from ..steps.further import whole_picture
from ..steps.two import fitted
from ..steps.value import coded
from ..steps.warp import FILTERS
from .placing import Placing, placing

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
    planes = [_share(row, own, level, own_size) for row in held]
    window = own.display_window
    if not planes:
        return matte.refined(np.ones((window.height, window.width), np.float32), level)
    return matte.refined(matte.joined(planes), level)


def _share(row: Held, own: PremultipliedPicture, level: int, own_size: tuple[int, int]) -> Plane:
    """What a part keeps, on the own layer's pixels."""
    part, window = row.part, own.display_window
    picture = whole_picture(row.picture)
    code = coded if part.space == "codes" else None
    size = picture.display_window.width, picture.display_window.height
    if row.places is None and size == (window.width, window.height):
        return kept_of(part, picture.planes, code)
    plane = _by_rows(
        picture["A"].shape, lambda a, b, out: np.copyto(out, _picked_rows(part, picture.planes, code, a, b))
    )
    if row.places is not None:
        moved = _as_placed(plane, row.places, level, own_size, (window.width, window.height))
    else:
        alone = PremultipliedPicture({"A": plane}, picture.data_window, picture.display_window)
        moved = fitted(alone, PremultipliedPicture({}, window, window), part.fit)["A"]
    return _by_rows(moved.shape, lambda a, b, out: part.kept(moved[a:b], out))


def kept_of(part: Part, planes: Mapping[str, Plane], code: Callable[[Plane], Plane] | None) -> Plane:
    """``(H, W)`` of what a part keeps of its channel of these planes; strip by strip."""
    return _by_rows(
        next(iter(planes.values())).shape,
        lambda a, b, out: part.kept(_picked_rows(part, planes, code, a, b), out),
    )


def _picked_rows(
    part: Part, planes: Mapping[str, Plane], code: Callable[[Plane], Plane] | None, a: int, b: int
) -> Plane:
    rows = {n: p[a:b] for n, p in planes.items()}
    return picked(rows, part.channel, weights=part.weights, code=code)


def _by_rows(shape: tuple[int, ...], work: Callable[[int, int, Plane], object]) -> Plane:
    height, width = shape
    out = np.empty((height, width), np.float32)

    def strip(a: int, b: int) -> None:
        work(a, b, out[a:b])

    for_strips(height, width * 2, strip)
    return out


def _as_placed(
    plane: Plane, places: Places, level: int, own_size: tuple[int, int], shape: tuple[int, int]
) -> Plane:
    """The plane as it lies in the comp, seen from the own layer's pixels: one resampling for both places."""
    theirs, mine, comp, size = places
    # corner coordinates of full pictures: source <- comp <- own
    whole = _full(placing(theirs, comp, size, 0)) @ np.linalg.inv(_full(placing(mine, comp, own_size, 0)))
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


def _full(how: Placing) -> NDArray[np.float64]:
    """Its matrix into pixels of the unhalved source, 3 x 3."""
    return np.vstack([how.matrix * 2.0**how.source_level, [0, 0, 1]])


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
