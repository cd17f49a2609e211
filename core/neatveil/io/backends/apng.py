"""What FFmpeg does not tell of an animated PNG: the rate of one with a frame or two."""

from __future__ import annotations

import struct
from fractions import Fraction
from pathlib import Path

from .png_chunks import chunks_of


def rate_of(path: Path) -> Fraction | None:
    """By how long the first frame stands; None where it does not say.

    Source: PNG, third edition, 11.3.6.2 fcTL: delay as a fraction of a second, of hundredths where the
    denominator is 0 [PNG].
    """
    with path.open("rb") as file:
        control = next((c for c in chunks_of(file) if c.kind == b"fcTL"), None)
        if control is None:
            return None
        file.seek(control.begin + 20)
        delay = file.read(4)
    if len(delay) < 4:
        return None
    numerator, denominator = struct.unpack(">HH", delay)
    return Fraction(denominator or 100, numerator) if numerator else None
