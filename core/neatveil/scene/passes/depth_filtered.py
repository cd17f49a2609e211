"""Depth as the mean of what covers the pixel; see `depth`."""

from __future__ import annotations

import numpy as np

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass
from .depth import EMPTY


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    mean = seen.mean(seen.depth)
    return {"depth_filtered.Z": np.where(seen.covered.any(axis=2), mean, np.float32(EMPTY))}


PASS = Pass(
    name="depth_filtered",
    help="Distance along the camera's axis, the mean of what covers the pixel.",
    kind="data",
    filtered=True,
    sample="float",
    fill=_fill,
    coded="range",
    unit="scene units along the camera's axis; 1e10 where nothing is",
)
