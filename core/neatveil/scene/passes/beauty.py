"""Beauty: everything as the camera sees it, premultiplied over black. The lighting passes add up to it."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass, channels


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    return {**channels("", "RGB", seen.beauty), "A": seen.alpha}


PASS = Pass(
    name="beauty",
    help="Everything as the camera sees it.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="",
    coded="light",
    unit="light, BT.709 primaries",
)
