"""The numbers under a pixel."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..comp import Comp, Element
from ..errors import NeatVeilError
from ..evaluate import Evaluator
from ..picture import RGB, RGBA, Box, Picture
from .display import Look, codes_of_look

#: The sRGB codes of the light.
AS_IT_IS = Look()
Numbers = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Sample:
    """Values at one pixel; R, G, B, A each, alpha last.

    Attributes
    ----------
    result : scene-linear, premultiplied over black.
    straight : scene-linear, ``C / a``; None where alpha is 0.
    code : code values of the straight colour as a look shows it, and alpha; 0..255, not rounded or clipped.
    stored : what the file of the asked layer holds at the pixel that lands here; None outside it.
    """

    result: Numbers
    straight: Numbers | None
    code: Numbers
    stored: Numbers | None = None


def sample(
    evaluator: Evaluator, comp: Comp, frame: int, x: int, y: int, layer: str | None = None,
    *, extent: Literal["comp", "upto", "layer"] = "comp", failed: list[NeatVeilError] | None = None,
    look: Look = AS_IT_IS,
) -> Sample:  # fmt: skip
    """Values at pixel (x, y) of the comp's frame, with the stored ones of one layer.

    ``extent``: of the whole comp, of the pile up to the layer, or of the layer alone. ``failed``: as of
    `Evaluator.picture`. ``look``: by which it is shown.
    """
    picture = evaluator.picture(
        comp, frame, region=Box(x, y, x + 1, y + 1),
        upto=layer if extent == "upto" else None, only=layer if extent == "layer" else None,
        failed=failed,
    )  # fmt: skip
    result = _at(picture, x, y) or (0.0, 0.0, 0.0, 0.0)
    stored = stored_under(evaluator, comp, frame, x, y, layer) if layer else None
    return with_straight(result, stored, look)


def sample_element(
    evaluator: Evaluator, element: Element, frame: int, x: int, y: int, look: Look = AS_IT_IS
) -> Sample:
    """Values of one element at pixel (x, y) of its own frame: as read, and as stored."""
    result = _at(evaluator.source(element, frame), x, y) or (0.0, 0.0, 0.0, 0.0)
    return with_straight(result, _at(evaluator.stored(element, frame), x, y), look)


def with_straight(result: Numbers, stored: Numbers | None, look: Look = AS_IT_IS) -> Sample:
    """A sample from the premultiplied values."""
    *rgb, alpha = result
    straight: Numbers | None = None
    if alpha != 0:
        straight = (rgb[0] / alpha, rgb[1] / alpha, rgb[2] / alpha, alpha)
    light = {n: np.array([[v]], np.float32) for n, v in zip(RGB, straight or result, strict=False)}
    r, g, b = (float(v[0, 0]) * 255 for v in codes_of_look(light, look).values())
    return Sample(result, straight, (r, g, b, alpha * 255), stored)


def stored_under(
    evaluator: Evaluator, comp: Comp, frame: int, x: int, y: int, layer_id: str
) -> Numbers | None:
    """Stored code values of a layer's file at the comp's pixel; None where it is not, and of a group."""
    found = evaluator.frame_under_point(comp, frame, layer_id)
    if found is None:
        return None
    element, number, matrix = found
    stored = evaluator.stored(element, number)
    u, v, w = matrix @ np.array([x + 0.5, y + 0.5, 1.0])
    return None if w <= 0 else _at(stored, int(np.floor(u / w)), int(np.floor(v / w)))


def _at(picture: Picture, x: int, y: int) -> Numbers | None:
    box = picture.data_window
    if not (box.x0 <= x < box.x1 and box.y0 <= y < box.y1):
        return None
    names = [n if n in picture.planes else "Y" for n in RGBA[:3]] + ["A"]
    values = [float(picture[n][y - box.y0, x - box.x0]) if n in picture.planes else 1.0 for n in names]
    return (values[0], values[1], values[2], values[3])
