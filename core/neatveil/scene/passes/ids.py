"""Identity and coverage by rank, after the open specification for ID mattes; see `identity`."""

from __future__ import annotations

import numpy as np

from ...channels.identity import name_hash
from ..identity import ranked
from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings


def _fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
    world = pixels.world
    hashes = np.array([name_hash(world.scene.nodes[n].name) for n in world.part_node], np.uint32)
    return ranked(hashes[pixels.part], pixels.covered)


PASS = Pass(
    name="ids",
    help="Which objects cover a pixel, by rank.",
    kind="data",
    filtered=True,
    sample="float",
    fill=_fill,
    layer="objects",
    coded="no",
    unit="hash of the name as float32, and share, by turns",
)
