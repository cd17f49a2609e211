"""Object masks: for each number the share of the pixel that its objects cover. They add up to alpha
where everything has a number.
"""

from __future__ import annotations

import numpy as np

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings


def _fill(pixels: PixelSamples, settings: PassSettings) -> dict[str, Floats]:
    numbers = settings.of_nodes(pixels)
    of_part = np.array(
        [numbers[n] if numbers[n] is not None else -1 for n in pixels.world.part_node], np.int64
    )
    here = np.where(pixels.part >= 0, of_part[pixels.part], -1)
    wanted = sorted(set(settings.by_name.values()))
    return {f"mask.{n}": pixels.share(here == n) for n in wanted}


PASS = Pass(
    name="masks",
    help="One anti-aliased mask for each numbered object.",
    kind="data",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="mask",
    unit="share of the pixel",
)
