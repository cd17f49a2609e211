"""Blur by a Gaussian, a box or a disc.

Gaussian: sampled at pixel centres, cut off at four standard deviations. Box and disc: the share of each pixel
that lies within, so that sizes need not be whole. Weights add up to 1.
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, sqrt
from typing import ClassVar, Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from ..drawn.shapes import shape_weights
from ..numeric.blocks import new_array
from ..numeric.gaussian import gaussian
from ..picture import Box, Plane
from .base import Family, scaled
from .neighbourhood import NeighbourhoodStep


class BlurStep(NeighbourhoodStep):
    """Soften."""

    title: ClassVar[str] = "Blur"
    help: ClassVar[str] = "Softens by a Gaussian, a box or a disc."
    family: ClassVar[Family] = "edges"

    kind: Literal["blur"] = "blur"
    kernel: Literal["gaussian", "box", "disc"] = Field(
        "gaussian",
        title="kernel",
        json_schema_extra={"labels": {"gaussian": "Gaussian", "box": "Box", "disc": "Disc"}},
    )
    size: float = Field(
        4.0, ge=0, le=1000, title="size",
        description="Standard deviation of the Gaussian; half the width of the box; radius of the disc.",
        json_schema_extra={"unit": "px", "slider": [0, 50]},
    )  # fmt: skip
    axes: Literal["both", "across", "down"] = Field(
        "both",
        title="axes",
        json_schema_extra={"labels": {"both": "Both", "across": "Across", "down": "Down"}},
    )

    def reach(self, level: int) -> int:
        size = scaled(self.size, level)
        return 0 if size < 0.02 else ceil(4 * size) if self.kernel == "gaussian" else ceil(size + 0.5)

    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        size = scaled(self.size, level)
        if self.kernel == "disc" and self.axes == "both":
            return np.asarray(cv2.filter2D(plane, -1, disc(size), borderType=border), np.float32)
        line = gaussian(size) if self.kernel == "gaussian" else box(size)
        point = np.ones(1, np.float32)
        across = point if self.axes == "down" else line
        down = point if self.axes == "across" else line
        out = new_array(plane.shape)
        cv2.sepFilter2D(plane, -1, across, down, out, borderType=border)
        return out

    def words(self) -> str:
        way = "" if self.axes == "both" else f" {self.axes}"
        return f"{self.kernel} {self.size:g} px{way}"


#: From this standard deviation on, in pixels of the halved picture, `softened` works on halves.
_WIDE = 3.0


def softened(plane: Plane, sigma: float) -> Plane:
    """``(H, W)`` through a Gaussian, near its own value within 3e-4 of the largest; never below 0 for light.

    A wide one is done on halves: the binomial filters that halve and double the picture have a variance of
    1 pixel each, and what they add is left out of the Gaussian between them. Beyond the border the last
    pixels are repeated. Source: Burt & Adelson 1983 [BurtAdelson1983].
    """
    rest = (sigma * sigma - 2) / 4
    if rest < _WIDE * _WIDE:
        line = gaussian(sigma)
        return np.asarray(cv2.sepFilter2D(plane, -1, line, line, borderType=cv2.BORDER_REPLICATE), np.float32)
    # the library ends its halves and doubles by mirroring: out of sight
    wide = cv2.copyMakeBorder(plane, 4, 4, 4, 4, cv2.BORDER_REPLICATE)
    half = softened(np.asarray(cv2.pyrDown(wide), np.float32), sqrt(rest))
    back = cv2.pyrUp(half, dstsize=(wide.shape[1], wide.shape[0]))
    return np.asarray(back[4:-4, 4:-4], np.float32)


@lru_cache(maxsize=32)
def box(half: float) -> NDArray[np.float32]:
    """Weights of a box ``2 * half`` wide: each pixel's share of it."""
    reach = ceil(half + 0.5)
    x = np.arange(-reach, reach + 1)
    weights = np.clip(np.minimum(x + 0.5, half) - np.maximum(x - 0.5, -half), 0, 1)
    return np.asarray(weights / weights.sum(), np.float32)


@lru_cache(maxsize=32)
def disc(radius: float) -> NDArray[np.float32]:
    """Weights of a disc: each pixel's share of it."""
    reach = ceil(radius + 0.5)
    side = 2 * reach + 1
    area = Box.sized(side, side)
    weights = shape_weights("ellipse", (0, 0), (2 * radius, 2 * radius), 0, 0, area, (side, side), 0)
    return np.asarray(weights / weights.sum(), np.float32)
