"""Shadow: what is left of the lights' diffuse light where something stands in the way.

1 is unshadowed, 0 all shadow: the lamps' light without shadows, times this, is what they leave in the
diffuse pass.
Coloured glass throws coloured shadows.
"""

from __future__ import annotations

import numpy as np

from ..lighting import lit
from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    left = pixels.light(pixels.each(lambda s: lit(s).shaded))
    whole = pixels.light(pixels.each(lambda s: lit(s).open))
    share = np.where(whole > 0, left / np.where(whole > 0, whole, 1), 1).astype(np.float32)
    return channels("shadow", "RGB", share)


PASS = Pass(
    name="shadow",
    help="What shadows leave of the lamps' diffuse light.",
    kind="data",
    filtered=True,
    sample="half",
    fill=_fill,
    unit="share by colour, 1 is unshadowed",
)
