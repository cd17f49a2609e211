"""From a layer's own pixels to the comp's: the matrix of its place, and resampling by rows."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from math import ceil, cos, floor, log2, radians, sin

import numpy as np

from ..comp import Comp, Transform
from ..comp.layers import LayerBase
from ..numeric.camera import Matrix
from ..numeric.resample import is_perspective
from ..picture import RGBA, Box, Plane, PremultipliedPicture
from ..picture.finite import finite_picture, finite_plane
from ..steps.warp import REACH, part, reached, shift, warped, warped_mean
from .cards import card_key, card_matrix

#: Most samples of a pixel across, and down, where a card is seen from afar or from its side.
_MOST_SAMPLES = 8
#: Most times that a card is halved.
_MOST_LEVELS = 12
#: Pixels away from every picture.
_NOWHERE = 1e8


@dataclass(frozen=True)
class Placement:
    """Maps comp pixels (at a level) to source pixels (at a level of their own).

    ``matrix`` is 3 x 3: source = matrix @ (x, y, 1), both measured from the corner of the frame; where the
    third value is not above 0 nothing is seen. ``samples``: of each pixel across and down.
    """

    matrix: Matrix
    source_level: int
    filter: str
    samples: tuple[int, int] = (1, 1)

    @cached_property
    def whole_shift(self) -> tuple[int, int] | None:
        """(dx, dy) when the place only moves by whole pixels, so that nothing is resampled."""
        m = self.matrix
        if max(abs(m[0, 0] - 1), abs(m[1, 1] - 1), abs(m[0, 1]), abs(m[1, 0])) > 1e-9:
            return None
        dx, dy = -m[0, 2], -m[1, 2]
        if abs(dx - round(dx)) > 1e-6 or abs(dy - round(dy)) > 1e-6 or is_perspective(m):
            return None
        return round(dx), round(dy)

    def covers(self, source: Box) -> Box:
        """Comp pixels that source pixels can reach, with a margin for the filter."""
        pad = REACH[self.filter]
        wide = Box(source.x0 - pad, source.y0 - pad, source.x1 + pad, source.y1 + pad)
        forth = np.asarray(np.linalg.inv(self.matrix), np.float64)
        return reached(wide, [forth])

    def backs(self, area: Box, source: Box) -> list[Matrix]:
        """For each sample of a pixel: from pixel centres of the comp's area to those of the source's."""
        across, down = self.samples
        shifts = [((i + 0.5) / across, (j + 0.5) / down) for j in range(down) for i in range(across)]
        origin = shift(-0.5 - source.x0, -0.5 - source.y0)
        return [origin @ self.matrix @ shift(area.x0 + dx, area.y0 + dy) for dx, dy in shifts]


def _not_finer() -> int:
    return 0


def _source_level(wanted: float, finest: Callable[[], int]) -> int:
    """The level whose pixels come nearest below those ``wanted``, in those of the unhalved picture.

    ``finest`` is asked where they are smaller than these: it may take as long as drawing.
    """
    level = floor(log2(wanted) + 1e-9)
    return level if level >= 0 else max(finest(), level)


def placement_of(
    transform: Transform, comp_size: tuple[int, int], layer_size: tuple[int, int], level: int,
    finest: Callable[[], int] = _not_finer,
) -> Placement:  # fmt: skip
    """The placing of a layer of ``layer_size`` in a comp of ``comp_size`` shown at ``level``.

    Pixels of level n are 2^n wide. The source is read at the level whose pixels come nearest
    below those asked for, and not below ``finest``.
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
    source_level = _source_level(2**level / transform.scale, finest)
    matrix = full * 2.0 ** (level - source_level)
    matrix[:, 2] = full[:, 2] * 2.0**-source_level
    return Placement(np.vstack([matrix, [0, 0, 1]]), source_level, transform.filter)


def placement_for(
    comp: Comp, layer: LayerBase, size: tuple[int, int], level: int,
    finest: Callable[[], int] = _not_finer,
) -> Placement:  # fmt: skip
    """The placing of a layer as it is at a frame, flat or standing in a scene.

    A card's source is read at the level that its nearest part needs; farther parts, and those seen from the
    side, are the mean of several samples. ``finest``: the lowest level that the source can be read at.

    Raises
    ------
    DocumentRefused
        The comp has not the camera that a card is seen by.
    """
    if layer.card is None:
        return placement_of(layer.transform, (comp.width, comp.height), size, level, finest)
    full = place_of(comp, layer, size)
    least, across, down = _sizes_seen(comp, full, size)
    source_level = min(_MOST_LEVELS, _source_level(2**level * least, finest))
    scale = np.diag([2.0**-source_level, 2.0**-source_level, 1])
    fits = [2**level * x / 2**source_level for x in (across, down)]
    samples = tuple(min(_MOST_SAMPLES, max(1, ceil(x / 1.5))) for x in fits)
    matrix = scale @ full @ np.diag([2.0**level, 2.0**level, 1])
    return Placement(matrix, source_level, layer.transform.filter, (samples[0], samples[1]))


def _sizes_seen(comp: Comp, full: Matrix, size: tuple[int, int]) -> tuple[float, float, float]:
    """How many of a card's pixels one of the comp is long, where it is in view.

    The least in any direction, and the most across and down.
    """
    y, x = np.mgrid[0 : comp.height : 17j, 0 : comp.width : 17j]
    points = full @ np.stack([x.ravel(), y.ravel(), np.ones(x.size)])
    with np.errstate(divide="ignore", invalid="ignore"):
        u, v = points[:2] / points[2]
        # the derivative of a quotient
        slopes = (full[:2, None, :2] - np.stack([u, v])[..., None] * full[2, None, None, :2]) / points[2][
            None, :, None
        ]
    inside = (points[2] > 0) & (u > 0) & (u < size[0]) & (v > 0) & (v < size[1])
    if not inside.any():  # smaller than the grid, or not in view: as it is about its middle
        inside[np.argmin(np.where(points[2] > 0, np.hypot(u - size[0] / 2, v - size[1] / 2), np.inf))] = True
    # on the horizon they are without end
    lengths = np.clip(np.nan_to_num(np.linalg.norm(slopes[:, inside], axis=0), nan=1.0), 1e-6, 1e6)
    return float(lengths.min()), float(lengths[:, 0].max()), float(lengths[:, 1].max())


def full_matrix(transform: Transform, comp_size: tuple[int, int], size: tuple[int, int]) -> Matrix:
    """3 x 3, from corner coordinates of the comp to those of a layer's unhalved picture."""
    placement = placement_of(transform, comp_size, size, 0)
    return np.diag([2.0**placement.source_level, 2.0**placement.source_level, 1]) @ placement.matrix


def place_of(comp: Comp, layer: LayerBase, size: tuple[int, int]) -> Matrix:
    """3 x 3, from corner coordinates of the comp to those of a layer's unhalved picture of a size.

    ``layer``: as it is at a frame. Raises as `placement_for`.
    """
    frame = comp.width, comp.height
    if layer.card is None:
        return full_matrix(layer.transform, frame, size)
    seen = np.linalg.inv(card_matrix(comp, layer.card, size)) @ full_matrix(layer.transform, frame, frame)
    if is_perspective(seen):
        return np.asarray(seen, np.float64)
    # parallel to the picture: all of it lies before the camera, or all of it behind
    return seen / seen[2, 2] if seen[2, 2] > 0 else shift(_NOWHERE, _NOWHERE)


def place_key(comp: Comp, layer: LayerBase) -> list[object]:
    """Changes with where a layer lies, but for the size of its picture."""
    place = layer.transform.model_dump_json()
    return [place] if layer.card is None else [place, *card_key(comp, layer.card)]


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
        # what is not mixed spreads no infinity
        n: warped(
            np.ascontiguousarray(p if resampling == "nearest" else finite_plane(p)), there, shape, resampling
        )
        for n, p in picture.planes.items()
    }
    return PremultipliedPicture(planes, frame, frame, data_planes=picture.data_planes)


def place_rows(source: PremultipliedPicture, placement: Placement, area: Box, out: dict[str, Plane]) -> None:
    """Fill ``out`` (R, G, B, A of ``area``'s size) with the source as placed; 0 where it is not."""
    shift = placement.whole_shift
    if shift is not None:
        _copy_shifted(source, shift, area, out)
        return
    # Four channels side by side resample some three times faster than four planes.
    pixels, size = finite_picture(source).interleaved(), (area.width, area.height)
    backs = placement.backs(area, source.data_window)
    part(warped_mean(pixels, backs, size, placement.filter), placement.filter, out)


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
