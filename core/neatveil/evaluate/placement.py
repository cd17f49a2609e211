"""From a layer's own pixels to the comp's: the matrix of its place, and resampling by rows."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import ceil, cos, floor, log2, radians, sin

import cv2
import numpy as np
from numpy.typing import NDArray

from ..comp import Comp, Transform
from ..picture import RGBA, Box, Plane, PremultipliedPicture
from ..picture.finite import finite_picture, finite_plane
from ..steps.warp import REACH, part, warped

Matrix = NDArray[np.float64]


@dataclass(frozen=True)
class Placement:
    """Maps comp pixels (at a level) to source pixels (at a level of their own).

    ``matrix`` is 2 x 3: source = matrix @ (x, y, 1), both measured from the corner of the frame.
    """

    matrix: NDArray[np.float64]
    source_level: int
    filter: str

    @cached_property
    def whole_shift(self) -> tuple[int, int] | None:
        """(dx, dy) when the place only moves by whole pixels, so that nothing is resampled."""
        m = self.matrix
        if max(abs(m[0, 0] - 1), abs(m[1, 1] - 1), abs(m[0, 1]), abs(m[1, 0])) > 1e-9:
            return None
        dx, dy = -m[0, 2], -m[1, 2]
        if abs(dx - round(dx)) > 1e-6 or abs(dy - round(dy)) > 1e-6:
            return None
        return round(dx), round(dy)

    def covers(self, source: Box) -> Box:
        """Comp pixels that source pixels can reach, with a margin for the filter."""
        inverse = cv2.invertAffineTransform(self.matrix)
        pad = REACH[self.filter]
        source = Box(source.x0 - pad, source.y0 - pad, source.x1 + pad, source.y1 + pad)
        corners = np.array(
            [[source.x0, source.y0, 1], [source.x1, source.y0, 1],
             [source.x0, source.y1, 1], [source.x1, source.y1, 1]], float,
        )  # fmt: skip
        points = corners @ inverse.T
        low, high = points.min(axis=0), points.max(axis=0)
        return Box(floor(low[0]), floor(low[1]), ceil(high[0]), ceil(high[1]))


def placement_of(
    transform: Transform, comp_size: tuple[int, int], layer_size: tuple[int, int], level: int
) -> Placement:
    """The placing of a layer of ``layer_size`` in a comp of ``comp_size`` shown at ``level``.

    Pixels of level n are 2^n wide. The source is read at the level whose pixels come nearest
    below those asked for.
    """
    (cw, ch), (lw, lh) = comp_size, layer_size
    angle = radians(transform.rotation)
    c, s = cos(angle) / transform.scale, sin(angle) / transform.scale
    # at rest the layer sits on whole pixels: odd leftovers go right and down
    rest_x, rest_y = (cw - lw) // 2, (ch - lh) // 2
    centre_x, centre_y = rest_x + lw / 2 + transform.x, rest_y + lh / 2 + transform.y
    # comp -> source at full size
    full = np.array(
        [[c, s, lw / 2 - c * centre_x - s * centre_y],
         [-s, c, lh / 2 + s * centre_x - c * centre_y]]
    )  # fmt: skip
    source_level = max(0, floor(log2(2**level / transform.scale) + 1e-9))
    matrix = full * 2.0 ** (level - source_level)
    matrix[:, 2] = full[:, 2] * 2.0**-source_level
    return Placement(matrix, source_level, transform.filter)


def full_matrix(transform: Transform, comp_size: tuple[int, int], size: tuple[int, int]) -> Matrix:
    """3 x 3, from corner coordinates of the comp to those of a layer's unhalved picture."""
    placement = placement_of(transform, comp_size, size, 0)
    return np.vstack([placement.matrix * 2.0**placement.source_level, [0, 0, 1]])


def at_level(matrix: Matrix, level: int) -> Matrix:
    """A matrix between corner coordinates of unhalved pictures as one between pixel centres at a level."""
    share = 2.0**level
    scaled = np.diag([1 / share, 1 / share, 1]) @ matrix @ np.diag([share, share, 1])
    centre = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    found: Matrix = np.linalg.inv(centre) @ scaled @ centre
    return found


def frame_box(comp: Comp, level: int) -> Box:
    """The comp's whole frame in pixels of a level.

    Parameters
    ----------
    comp : the document.
    level : times that the size is halved.

    Returns
    -------
    A box from 0, 0 on; odd sizes are rounded up.

    Examples
    --------
    >>> frame_box(Comp(width=101, height=50), 1).width
    51
    """
    return Box.sized(comp.width, comp.height).halved(level)


def placed_whole(
    picture: PremultipliedPicture, matrix: Matrix, level: int, frame: Box, resampling: str
) -> PremultipliedPicture:
    """All planes of a picture over a frame at the same level.

    ``matrix``: from corner coordinates of the unhalved frame to those of the unhalved picture.
    """
    there = at_level(matrix, level)
    if np.allclose(there, np.eye(3), atol=1e-9) and picture.display_window == frame:
        return picture
    shape = frame.width, frame.height
    planes = {
        n: warped(np.ascontiguousarray(finite_plane(p)), there, shape, resampling)
        for n, p in picture.planes.items()
    }
    return PremultipliedPicture(planes, frame, frame, data_planes=picture.data_planes)


def place_rows(source: PremultipliedPicture, placement: Placement, area: Box, out: dict[str, Plane]) -> None:
    """Fill ``out`` (R, G, B, A of ``area``'s size) with the source as placed; 0 where it is not."""
    shift = placement.whole_shift
    if shift is not None:
        _copy_shifted(source, shift, area, out)
        return
    m = placement.matrix
    # corner coordinates to pixel-centre coordinates, and to the source's own origin
    offset = m[:, :2] @ np.array([area.x0 + 0.5, area.y0 + 0.5]) + m[:, 2] - 0.5
    offset -= np.array([source.data_window.x0, source.data_window.y0])
    matrix = np.vstack([np.column_stack([m[:, :2], offset]), [0, 0, 1]])
    # Four channels side by side resample some three times faster than four planes.
    moved = warped(finite_picture(source).interleaved(), matrix, (area.width, area.height), placement.filter)
    part(moved, placement.filter, out)


def _copy_shifted(
    source: PremultipliedPicture, shift: tuple[int, int], area: Box, out: dict[str, Plane]
) -> None:
    moved = source.data_window.shift(*shift)
    both = moved.intersect(area)
    for n in RGBA:
        target = out[n]
        if both != area:
            target[:] = 0
        if not both.empty:
            target[both.y0 - area.y0 : both.y1 - area.y0, both.x0 - area.x0 : both.x1 - area.x0] = source[n][
                both.y0 - moved.y0 : both.y1 - moved.y0, both.x0 - moved.x0 : both.x1 - moved.x0
            ]
