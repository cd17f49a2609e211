"""Shadow on catchers: how much of the light that falls there the shown objects take away.

An alpha for black: laid over the plate it darkens what the catcher stands in for.
"""

from __future__ import annotations

import numpy as np

from ..catching import caught
from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings


def darkness(pixels: PixelSamples) -> Floats:
    """``(rows, width)``: 0 where no catcher is or all its light arrives, 1 in full shadow."""
    whole = pixels.each(lambda s: caught(s)[0]).sum(axis=2)
    left = pixels.each(lambda s: caught(s)[1]).sum(axis=2)
    taken = np.where(whole > 0, 1 - left / np.where(whole > 0, whole, 1), 0)
    return (taken * pixels.share(pixels.each(lambda s: s.catcher))).astype(np.float32)


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    return {"caught.A": darkness(pixels)}


PASS = Pass(
    name="caught",
    help="Shadow on what stands in for the plate, as an alpha for black.",
    kind="data",
    filtered=True,
    sample="half",
    fill=_fill,
    needs="catcher",
    unit="share of the light that is taken away",
)
