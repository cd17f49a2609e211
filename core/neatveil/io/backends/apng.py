"""What FFmpeg does not tell of an animated PNG: the rate of one with a frame or two."""

from __future__ import annotations

import struct
from fractions import Fraction
from pathlib import Path


def rate_of(path: Path) -> Fraction | None:
    """By how long the first frame stands; None where it does not say.

    Source: PNG, third edition, 11.3.6.2 fcTL: delay as a fraction of a second, of hundredths where the
    denominator is 0 [PNG].
    """
    with path.open("rb") as file:
        file.seek(8)
        while len(head := file.read(8)) == 8:
            length, kind = struct.unpack(">I4s", head)
            if kind != b"fcTL":
                file.seek(length + 4, 1)
                continue
            control = file.read(26)
            if len(control) < 26:
                return None
            numerator, denominator = struct.unpack(">HH", control[20:24])
            return Fraction(denominator or 100, numerator) if numerator else None
    return None
