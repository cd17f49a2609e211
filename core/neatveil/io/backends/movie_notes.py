"""What a person should know of a movie that is not the plain case, in sentences."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise
from typing import Any

INTERLACED = "It is interlaced: each frame holds two moments, in alternate rows."


def not_square(aspect: Fraction) -> str:
    return (
        f"Its pixels are not square: {aspect.numerator}:{aspect.denominator}; they are shown as if they were."
    )


def notes_of(stream: Any, pts: Sequence[int]) -> list[str]:
    """``pts``: when each frame is shown, in order, in units of the stream's time base."""
    context = stream.codec_context
    found = []
    aspect = stream.sample_aspect_ratio or context.sample_aspect_ratio
    if aspect and aspect != 1:
        found.append(not_square(Fraction(aspect)))
    if int(getattr(context, "field_order", 0) or 0) > 1:
        found.append(INTERLACED)
    if uneven := _uneven(pts, stream.time_base):
        found.append(uneven)
    return found


def _uneven(pts: Sequence[int], base: Fraction | None) -> str:
    """That frames do not last equally long; containers round times to a unit of their time base."""
    lasts = [b - a for a, b in pairwise(pts)]
    if not base or not lasts or max(lasts) - min(lasts) <= 1:
        return ""
    usual = sorted(lasts)[len(lasts) // 2]
    other = sum(abs(n - usual) > 1 for n in lasts)
    if not other:
        return ""
    short, long = (float(n * base * 1000) for n in (min(lasts), max(lasts)))
    return (
        f"Its frames do not last equally long: {other} of {len(lasts)} differ, from {short:.1f} to "
        f"{long:.1f} ms. They are read one after another, so its movement changes pace."
    )
