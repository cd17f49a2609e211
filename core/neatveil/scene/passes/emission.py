"""Light that surfaces give off; a part of the beauty's sum."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    light = seen.light(lit(seen).emission)
    return {f"emission.{c}": light[..., i] for i, c in enumerate("RGB")}


PASS = Pass("emission", "Light that surfaces give off.", "colour", True, "half", _fill)
