"""World normals of length 1, turned towards the camera. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass, channels


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    return channels("normal", "XYZ", seen.one(seen.normal))


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
