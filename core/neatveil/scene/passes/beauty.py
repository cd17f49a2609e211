"""Beauty: everything as the camera sees it, premultiplied over black. The lighting passes add up to it."""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return {**channels("", "RGB", pixels.beauty), "A": pixels.alpha}


PASS = Pass(
    name="beauty",
    help="Everything as the camera sees it.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="",
    coded="light",
    unit="light, BT.709 primaries",
)
