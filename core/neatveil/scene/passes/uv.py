"""Place on the picture that lies on the surface: u to the right, v down. One sample a pixel, never mixed."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    return channels("uv", "UV", seen.one(seen.uv))


PASS = Pass(
    "uv",
    "Where the surface lies on its picture: u right, v down.",
    "data",
    False,
    "float",
    _fill,
    needs="uv",
)
