"""Depth: distance along the camera's axis, in the scene's units; one sample a pixel, never mixed.

Half a pixel of a near post and half of a far hill are not something in between: what is mixed
across an edge lies where nothing is. `depth_filtered` is the mixed one, told apart by its name.
"""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings

#: Where nothing is (common practice, no source): finite, so that no step turns it into NaN.
EMPTY = 1e10


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return {"depth.Z": pixels.one(pixels.depth, EMPTY)}


PASS = Pass(
    name="depth",
    help="Distance along the camera's axis, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    coded="range",
    unit="scene units along the camera's axis; 1e10 where nothing is",
)
