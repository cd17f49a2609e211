"""Light that surfaces mirror; a part of the beauty's sum."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    light = seen.light(lit(seen).reflection)
    return {f"reflection.{c}": light[..., i] for i, c in enumerate("RGB")}


PASS = Pass("reflection", "Light that surfaces mirror.", "colour", True, "half", _fill)
