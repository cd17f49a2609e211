"""Beauty: everything as the camera sees it, premultiplied over black. The lighting passes add up to it."""

from __future__ import annotations

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return {**channels("", "RGB", seen.light(lit(seen).beauty)), "A": seen.share(seen.covered)}


PASS = Pass("beauty", "Everything, premultiplied over black.", "colour", True, "half", _fill, "")
