"""Where readings disagree most: the places on which they are to be judged by eye."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from ...colour import encode
from ...picture import RGB, RGBA, Box, Plane, StoredPicture
from ..read import read
from ..reading import Reading


@dataclass(frozen=True, slots=True)
class Spot:
    """A box of a frame. ``disagreement``: mean difference of the readings over it, in 8-bit codes."""

    frame: int
    box: Box
    disagreement: float


def worst_places(
    frames: Mapping[int, StoredPicture], readings: Sequence[Reading], encoding: str, *,
    count: int = 4, size: tuple[int, int] = (80, 60),
) -> list[Spot]:  # fmt: skip
    """The boxes where the readings' results differ most along the partly covered band, worst first.

    ``frames``: code values with R, G, B, A by frame number; ``size``: width and height of a box. Boxes do
    not overlap. Fewer come back where there are fewer places at all; never none for a frame that has
    pixels: where nothing differs, the middle of what is there.
    """
    found: list[Spot] = []
    each = max(1, -(-count // len(frames)))
    for frame, picture in frames.items():
        coarse = _every_other(picture)
        found += _peaks(frame, _disagreement(coarse, readings, encoding), picture, size, each)
    found.sort(key=lambda s: -s.disagreement)
    return found[:count]


def _disagreement(picture: StoredPicture, readings: Sequence[Reading], encoding: str) -> Plane:
    """Largest difference of any two results over black and over white, code value, in the band."""
    alpha = picture["A"]
    spread = np.zeros_like(alpha)
    results = [read(picture, r, encoding) for r in readings if r.alpha != "none"]
    for over in (np.float32(0), np.float32(1)):
        for n in RGB:
            shown = [encode(np.clip(r[n] + over * (1 - r["A"]), 0, 1), "srgb") for r in results]
            spread = np.maximum(spread, np.max(shown, axis=0) - np.min(shown, axis=0))
    band = ((alpha > 0.01) & (alpha < 0.99)).astype(np.uint8)
    # what lies beside the band belongs to it: a wrong matte colour shows where the alpha is 0 too
    near = cv2.dilate(band, np.ones((5, 5), np.uint8))
    if near.any():
        spread *= near
    return spread


def _every_other(picture: StoredPicture) -> StoredPicture:
    """Every second pixel of every second row: enough to find places by, in a quarter of the time."""
    planes = {n: np.ascontiguousarray(picture[n][::2, ::2]) for n in RGBA}
    return StoredPicture(planes, data_planes=picture.data_planes)


def _peaks(
    frame: int, spread: Plane, picture: StoredPicture, size: tuple[int, int], count: int
) -> list[Spot]:
    """The boxes with most of a map of every second pixel."""
    data, display = picture.data_window, picture.display_window
    width, height = min(size[0], display.width), min(size[1], display.height)
    half = max(1, width // 2), max(1, height // 2)
    sums = cv2.boxFilter(spread, -1, half, borderType=cv2.BORDER_CONSTANT)
    found: list[Spot] = []
    for _ in range(count):
        _, best, _, (x, y) = cv2.minMaxLoc(sums)
        if best <= 0 and found:
            break
        if best <= 0:
            x, y = spread.shape[1] // 2, spread.shape[0] // 2
        x0 = min(max(data.x0 + 2 * x - width // 2, display.x0), display.x1 - width)
        y0 = min(max(data.y0 + 2 * y - height // 2, display.y0), display.y1 - height)
        found.append(Spot(frame, Box(x0, y0, x0 + width, y0 + height), float(best) * 255))
        apart = (x - half[0], y - half[1]), (x + half[0], y + half[1])
        cv2.rectangle(sums, *apart, 0.0, cv2.FILLED)
    return found
