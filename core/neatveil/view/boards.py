"""What regions marked in the picture say: the channel board, a screen's colour and the ends it asks for."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..colour.working import colour_from_working
from ..comp import Comp
from ..errors import ValueRefused
from ..evaluate import Evaluator
from ..mattes import KeyPart, Matte
from ..mattes.board import Candidate, board
from ..mattes.key import black_point_of, white_point_of
from ..picture import Box, plane_over
from ..steps.extra_channels import whole_picture

#: Width of the grey pictures, about.
GREY = 240


def board_of(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, source: str,
    stay: Sequence[Box], go: Sequence[Box], extra_channels: Sequence[str] = (),
) -> list[Candidate]:  # fmt: skip
    """Candidates for a part of the layer's matte, the best first.

    Parameters
    ----------
    source : ``layer:`` and an id, an element's key, or empty for the layer itself; after its steps.
    stay, go : pixels of the comp.
    extra_channels : channels of the source's element that are looked at besides.

    Raises
    ------
    ValueRefused : a region is empty, covers everything, or is the other one.
    """
    picture, into = evaluator.named(comp, frame, layer, source, extra_channels)
    full = whole_picture(picture)
    height, width = full["A"].shape
    step = max(1, round(width / GREY))
    small = {n: np.ascontiguousarray(p[step // 2 :: step, step // 2 :: step]) for n, p in full.planes.items()}
    regions = [[box_into(box, into) for box in boxes] for boxes in (stay, go)]
    frame_box = Box.sized(width, height)
    for boxes, what in zip(regions, ("stays", "goes"), strict=True):
        if boxes and all(b.intersect(frame_box).empty for b in boxes):
            raise ValueRefused(f"What {what} is marked beside the picture.", advice="Mark it within.")
    return board(full.planes, small, *regions)


def region_colour(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, source: str, box: Box
) -> tuple[float, float, float]:
    """The median light of a region of a layer or an element; robust against what crosses it.

    In BT.709's primaries, as colours of the document are.

    Raises
    ------
    ValueRefused : the region holds no pixel of the picture.
    """
    picture, into = evaluator.named(comp, frame, layer, source)
    area = box_into(box, into).intersect(picture.display_window)
    if area.empty:
        raise ValueRefused("Nothing of the picture is marked.", advice="Drag over a piece of it.")
    planes = [plane_over(picture[n], picture.data_window, area) for n in "RGB"]
    r, g, b = (float(np.nanmedian(p)) for p in planes)
    return colour_from_working((r, g, b), comp.working)


def screen_points(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, part: KeyPart, box: Box
) -> tuple[float, float]:
    """A key's black point from a region of the comp that is clean screen, its white point from the whole."""
    bare = part.model_copy(
        update={"combine": "add", "on": True, "inverted": False, "black": 0.0, "white": 1.0}
    )
    changed = comp.with_layer(layer, {"matte": Matte(parts=(bare,))})
    plane = evaluator.matte(changed, frame, layer, None, 0)
    _, into = evaluator.named(comp, frame, layer, "")
    area = box_into(box, into).intersect(Box.sized(plane.shape[1], plane.shape[0]))
    black = 0.0 if area.empty else black_point_of(plane[area.y0 : area.y1, area.x0 : area.x1])
    return black, white_point_of(plane, black)


def box_into(box: Box, into: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> Box:
    """The box around a comp's box in the pixels that a matrix leads into; empty behind the eye."""
    corners = np.array([[x, y, 1.0] for x in (box.x0, box.x1) for y in (box.y0, box.y1)])
    found = corners @ into.T
    if (found[:, 2] <= 0).any():
        return Box(0, 0, 0, 0)
    found = found[:, :2] / found[:, 2:]
    (x0, y0), (x1, y1) = found.min(axis=0), found.max(axis=0)
    return Box(round(x0), round(y0), max(round(x1), round(x0) + 1), max(round(y1), round(y0) + 1))
