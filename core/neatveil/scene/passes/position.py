"""World position. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass, channels


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    return channels("position", "XYZ", seen.one(seen.position))


PASS = Pass(
    name="position",
    help="Place in the world, unmixed.",
    kind="data",
    filtered=False,
    sample="float",
    fill=_fill,
    coded="no",
    unit="scene units along the world's axes",
)
