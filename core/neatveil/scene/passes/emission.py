"""Light that surfaces give off; a part of the beauty's sum."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return channels("emission", "RGB", seen.light(lit(seen).emission))


PASS = Pass("emission", "Light that surfaces give off.", "colour", True, "half", _fill)
