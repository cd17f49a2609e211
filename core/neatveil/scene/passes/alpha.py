"""Alpha: the share of each pixel that anything covers."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return {"A": seen.share(seen.covered)}


PASS = Pass("alpha", "How much of each pixel is covered.", "colour", True, "half", _fill, "")
