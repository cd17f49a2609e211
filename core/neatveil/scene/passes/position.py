"""World position. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return channels("position", "XYZ", pixels.one(pixels.position))


PASS = Pass(
    name="position",
    help="Place in the world, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    coded="no",
    unit="scene units along the world's axes",
)
