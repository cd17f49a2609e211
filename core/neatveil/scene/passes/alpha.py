"""Alpha: the share of each pixel that hides what is behind; glass hides what it does not let through."""

from __future__ import annotations

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass


def _fill(seen: Seen, _: Given) -> dict[str, Floats]:
    return {"A": seen.alpha}


PASS = Pass(
    name="alpha",
    help="How much of each pixel is covered.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="",
    unit="share, 1 hides all that is behind",
)
