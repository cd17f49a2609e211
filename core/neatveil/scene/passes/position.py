"""World position. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return channels("position", "XYZ", seen.one(seen.position))


PASS = Pass("position", "World position.", "data", False, "float", _fill, coded="no")
