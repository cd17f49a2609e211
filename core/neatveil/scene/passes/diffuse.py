"""Light that surfaces scatter evenly; a part of the beauty's sum."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return channels("diffuse", "RGB", seen.light(lit(seen).diffuse))


PASS = Pass("diffuse", "Light that surfaces scatter evenly.", "colour", True, "half", _fill)
