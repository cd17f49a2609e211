"""Smooth shapes as coverage: what every picture here is drawn with."""

from __future__ import annotations

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]

FRAMES = range(1, 49)
WIDTH, HEIGHT = 1920, 1080
RATE = "25"
SHIFT = 4  # OpenCV draws with coordinates in 1/16 pixel


class Shape(NamedTuple):
    """Coverage 0..1 of a part of a picture: where it lies, and its values."""

    where: tuple[slice, slice]
    values: Array


def _shape(shape: tuple[int, int], points: NDArray[np.float64], reach: float, over: int, fill: bool) -> Shape:
    low = np.maximum(np.floor(points.min(axis=0) - reach - 2), 0).astype(int)
    high = np.minimum(np.ceil(points.max(axis=0) + reach + 2), (shape[1], shape[0])).astype(int)
    w, h = np.maximum(high - low, 1)
    canvas = np.zeros((h * over, w * over), np.uint8)
    scaled = [np.round((points - low) * over * (1 << SHIFT)).astype(np.int32)]
    if fill:
        cv2.fillPoly(canvas, scaled, 255, lineType=cv2.LINE_8, shift=SHIFT)
    else:
        cv2.polylines(canvas, scaled, False, 255, max(1, round(reach * over)), cv2.LINE_AA, SHIFT)
    values = cv2.resize(canvas, (int(w), int(h)), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
    where = (slice(low[1], low[1] + h), slice(low[0], low[0] + w))
    part = values[: shape[0] - low[1], : shape[1] - low[0]]
    return Shape(where, part)


def polygon(shape: tuple[int, int], points: NDArray[np.float64], over: int = 4) -> Shape:
    """A filled polygon, ``over`` x ``over`` samples a pixel."""
    return _shape(shape, points, 0, over, True)


def line(shape: tuple[int, int], points: NDArray[np.float64], thickness: float, over: int = 4) -> Shape:
    """A line through points."""
    return _shape(shape, points, thickness, over, False)


def disc(shape: tuple[int, int], x: float, y: float, radius: float, soft: float = 1.0) -> Array:
    """Coverage of a disc with an edge ``soft`` pixels wide, over the whole picture."""
    yy, xx = np.mgrid[: shape[0], : shape[1]].astype(np.float32)
    cover = np.clip((radius - np.hypot(xx + 0.5 - x, yy + 0.5 - y)) / soft + 0.5, 0, 1)
    return cover.astype(np.float32)


def whole(coverage: Array) -> Shape:
    """A coverage as large as the picture."""
    return Shape((slice(None), slice(None)), coverage)


def lay(picture: Array, shape: Shape, colour: tuple[float, float, float]) -> None:
    """Lay a colour over an opaque picture ``(H, W, 3)``, in place."""
    part = picture[shape.where]
    part += shape.values[..., None] * (np.array(colour, np.float32) - part)


def lay_rgba(
    picture: Array, shape: Shape, colour: Array | tuple[float, float, float], most: float = 1.0
) -> None:
    """Lay a colour over a premultiplied picture ``(H, W, 4)``, in place."""
    part, coverage = picture[shape.where], shape.values * np.float32(most)
    part *= 1 - coverage[..., None]
    part[..., :3] += coverage[..., None] * np.asarray(colour, np.float32)
    part[..., 3] += coverage
