"""World normals of length 1, turned towards the camera. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return channels("normal", "XYZ", pixels.one(pixels.normal))


PASS = Pass(
    name="normals",
    help="World normals, turned towards the camera, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    layer="normal",
    coded="way",
    unit="-1 to 1 along the world's axes",
)
