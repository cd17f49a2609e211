"""Mattes over a layer's own picture: every part brought to its pixels, put together, and the picture cut."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

import numpy as np

from ..alpha.convert import unpremultiply
from ..alpha.extend import extended_colour
from ..mattes import Drawn, KeyPart, Matte, PicturePart, Rows
from ..mattes.natural import colour_in_front, edge_found
from ..numeric.blocks import new_array
from ..numeric.camera import Matrix
from ..numeric.pool import for_each, for_strips
from ..picture import RGB, RGBA, Plane, PremultipliedPicture, cut, plane_over
from ..picture.finite import finite_plane
from ..steps.extra_channels import whole_picture
from ..steps.second_source import fit_to
from ..steps.warp import warped
from .placement import at_level


class Places(NamedTuple):
    """How a source and the own layer lie in the comp: from its points to theirs; and the source's filter."""

    theirs: Matrix
    mine: Matrix
    filter: str


class PartInput(NamedTuple):
    """What a part of pictures is made from.

    ``places``: both places, where it is read as it lies in the comp. ``second``: the other picture that it
    names. ``survey``: what it found out about its picture before.
    """

    part: PicturePart
    picture: PremultipliedPicture
    places: Places | None = None
    second: PremultipliedPicture | None = None
    survey: tuple[float, ...] | None = None


def combine_parts(
    matte: Matte, own: PremultipliedPicture, level: int, inputs: Iterable[PartInput | Drawn]
) -> Plane:
    """``(H, W)`` 0..1 over the display window of ``own``, at its level, not yet refined."""
    shares = [row if isinstance(row, Drawn) else Drawn(_part_share(row, own, level)) for row in inputs]
    window = own.display_window
    return matte.joined(shares) if shares else np.ones((window.height, window.width), np.float32)


def found_in(picture: PremultipliedPicture, matte: Matte, rough: Plane, level: int) -> Plane:
    """The rough matte with its edge found in a picture; lengths are divided by ``2 ** level``."""
    planes = unpremultiply(whole_picture(picture)).planes
    return edge_found(planes, rough, matte.band * 2.0**-level, matte.trust)


def _part_share(row: PartInput, own: PremultipliedPicture, level: int) -> Plane:
    """What a part keeps, on the own layer's pixels."""
    part, window = row.part, own.display_window
    picture = whole_picture(row.picture)
    whole = _rows(row)
    size = picture.display_window.width, picture.display_window.height
    shape = picture.display_window.height, picture.display_window.width
    if row.places is None and size == (window.width, window.height):
        return part_matte(part, whole)
    plane = _by_rows(shape, lambda a, b, out: np.copyto(out, part.values(_some(whole, a, b))))
    if row.places is not None:
        moved = _warp_into_layer(plane, row.places, level, (window.width, window.height))
    else:
        alone = PremultipliedPicture({"A": plane}, picture.data_window, picture.display_window)
        moved = fit_to(alone, PremultipliedPicture({}, window, window), part.fit)["A"]
    return _by_rows(moved.shape, lambda a, b, out: part.kept(moved[a:b], out))


def remove_screen_colour(row: PartInput) -> PremultipliedPicture:
    """The picture of a key with its screen's light taken out of it, over its whole frame."""
    part, whole = row.part, _rows(row)
    assert isinstance(part, KeyPart)
    planes = {n: new_array(whole.planes["A"].shape) for n in RGB}

    def strip(a: int, b: int) -> None:
        for n, p in part.remove_screen(_some(whole, a, b)).items():
            planes[n][a:b] = p

    for_strips(whole.height, whole.planes["A"].shape[1] * 4, strip)
    return whole_picture(row.picture).with_planes({**whole.planes, **planes})


def _rows(row: PartInput) -> Rows:
    """All rows of what a part is made from; its other picture stretched or centred to them."""
    picture = whole_picture(row.picture)
    second = None
    if row.second is not None:
        like = PremultipliedPicture({}, picture.data_window, picture.data_window)
        second = fit_to(row.second, like, row.part.fit).planes
    return Rows(picture.planes, second, 0, picture.display_window.height, row.survey)


def part_matte(part: PicturePart, whole: Rows) -> Plane:
    """``(H, W)`` of what a part keeps of a picture; strip by strip."""
    return _by_rows(
        next(iter(whole.planes.values())).shape,
        lambda a, b, out: part.done(_some(whole, a, b), out),
    )


def _some(whole: Rows, a: int, b: int) -> Rows:
    second = whole.second and {n: p[a:b] for n, p in whole.second.items()}
    return whole._replace(planes={n: p[a:b] for n, p in whole.planes.items()}, second=second, first=a)


def _by_rows(shape: tuple[int, ...], work: Callable[[int, int, Plane], object]) -> Plane:
    height, width = shape
    out = new_array((height, width))

    def strip(a: int, b: int) -> None:
        work(a, b, out[a:b])

    for_strips(height, width * 2, strip)
    return out


def _warp_into_layer(plane: Plane, places: Places, level: int, shape: tuple[int, int]) -> Plane:
    """The plane as it lies in the comp, seen from the own layer's pixels: one resampling for both places."""
    # corner coordinates of full pictures: source <- comp <- own
    matrix = at_level(places.theirs @ np.linalg.inv(places.mine), level)
    if np.allclose(matrix, np.eye(3), atol=1e-9) and plane.shape == (shape[1], shape[0]):
        return plane
    return warped(np.ascontiguousarray(finite_plane(plane)), matrix, shape, places.filter)


def apply_matte(
    picture: PremultipliedPicture, matte: Plane, how: Matte | None = None
) -> PremultipliedPicture:
    """R, G, B, A times the matte; light goes with the rest. ``matte``: over the display window.

    ``how``: says what colour is given to what the matte keeps in part; without it the colour is left.
    """
    window = picture.data_window
    part = plane_over(matte, picture.display_window, window)
    before = cut(picture, window)
    planes = {n: np.empty_like(p) for n, p in before.planes.items()}

    def strip(y0: int, y1: int) -> None:
        for n, out in planes.items():
            np.multiply(before[n][y0:y1], part[y0:y1], out=out[y0:y1])

    for_strips(window.height, window.width, strip)
    if how is not None and how.edge_colour == "inside":
        corner = window.x0 - picture.display_window.x0, window.y0 - picture.display_window.y0
        _extend_inner_colour(planes, before["A"], part, np.float32(how.inside), corner)
    elif how is not None and how.edge_colour == "front":
        _colour_in_front(planes, before, part)
    return picture.with_planes({**picture.planes, **planes})


def mixed_by_matte(
    before: PremultipliedPicture, after: PremultipliedPicture, matte: Plane
) -> PremultipliedPicture:
    """The one before where a matte removes, the one after where it keeps, between them a mixture.

    ``matte``: over the display window of ``after``; beyond it nothing is changed.
    """
    area = before.data_window.around(after.data_window)
    share = plane_over(matte, after.display_window, area)
    planes: dict[str, Plane] = {}

    def mix(name: str) -> None:
        one = plane_over(before[name], before.data_window, area)
        other = plane_over(after[name], after.data_window, area)
        planes[name] = one + (other - one) * share

    for_each(list(RGBA), mix)
    return PremultipliedPicture(planes, area, before.display_window)


def _colour_in_front(planes: dict[str, Plane], before: PremultipliedPicture, matte: Plane) -> None:
    """``planes``: matted; changed where the matte keeps in part. ``before``: the same, not matted."""
    edge = (matte > 0) & (matte < 1) & (before["A"] > 0)
    if not edge.any():
        return
    straight = unpremultiply(before)
    colour = colour_in_front(np.stack([straight[n] for n in RGB], axis=-1), np.ascontiguousarray(matte))
    for i, n in enumerate(RGB):
        np.copyto(planes[n], colour[..., i] * planes["A"], where=edge)


def _extend_inner_colour(
    planes: dict[str, Plane], alpha: Plane, matte: Plane, inside: np.float32, corner: tuple[int, int]
) -> None:
    """``planes``: matted; changed where the matte keeps in part. ``corner``: as of `extended_colour`."""
    sure = matte >= inside
    trusted = {n: np.where(sure, planes[n], np.float32(0)) for n in RGBA}
    colour = extended_colour(trusted, corner=corner)
    edge = (matte > 0) & ~sure & (alpha > 0)
    for n in RGB:
        np.copyto(planes[n], colour[n] * planes["A"], where=edge)
