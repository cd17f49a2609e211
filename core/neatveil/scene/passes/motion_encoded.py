"""Motion as codes: 0.5 plus the way divided by twice a stated most, x right, y down.

For files and programs that hold no negative values. 0.5 is no movement; a way longer than the most
is cut there, which the manifest says. Meant for 16 bits: of 8 the steps are pixels wide.
"""

from __future__ import annotations

import numpy as np

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels
from .motion import way_of


def _fill(pixels: PixelSamples, settings: PassSettings) -> dict[str, Floats]:
    codes = 0.5 + way_of(pixels) / np.float32(2 * settings.most_motion)
    return channels("motion_encoded", "XY", np.clip(codes, 0, 1).astype(np.float32))


PASS = Pass(
    name="motion_encoded",
    help="Movement to the next frame as codes around 0.5, by a stated most.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    needs="later",
    unit="0.5 + pixels a frame / (2 * most_motion), x right, y down",
)
