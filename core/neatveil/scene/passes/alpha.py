"""Alpha: the share of each pixel that hides what is behind; glass hides what it does not let through."""

from __future__ import annotations

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return {"A": pixels.alpha}


PASS = Pass(
    name="alpha",
    help="How much of each pixel is covered.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="",
    unit="share, 1 hides all that is behind",
)
