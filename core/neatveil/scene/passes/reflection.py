"""Light that surfaces mirror; a part of the beauty's sum."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return channels("reflection", "RGB", seen.light(lit(seen).reflection))


PASS = Pass("reflection", "Light that surfaces mirror.", "colour", True, "half", _fill)
