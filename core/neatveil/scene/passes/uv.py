"""Place on the picture that lies on the surface: u to the right, v down. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return channels("uv", "UV", pixels.one(pixels.uv))


PASS = Pass(
    name="uv",
    help="Where the surface lies on its picture, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    needs="uv",
    unit="0 to 1, u right, v down the picture",
)
