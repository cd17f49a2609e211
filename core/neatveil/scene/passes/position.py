"""World position. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    one = seen.one(seen.position)
    return {f"position.{c}": one[..., i] for i, c in enumerate("XYZ")}


PASS = Pass("position", "World position.", "data", False, "float", _fill)
