"""Depth as the mean of what covers the pixel; see `depth`."""

from __future__ import annotations

import numpy as np

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings
from .depth import EMPTY


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    mean = pixels.mean(pixels.depth)
    return {"depth_filtered.Z": np.where(pixels.covered.any(axis=2), mean, np.float32(EMPTY))}


PASS = Pass(
    name="depth_filtered",
    help="Distance along the camera's axis, the mean of what covers the pixel.",
    kind="data",
    filtered=True,
    sample="float",
    fill=_fill,
    coded="range",
    unit="scene units along the camera's axis; 1e10 where nothing is",
)
