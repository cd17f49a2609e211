"""Exact frame rates: fractions, written as ``25`` or ``24000/1001``."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Annotated

from pydantic import BeforeValidator, PlainSerializer, WithJsonSchema

_FORM = re.compile(r"^\d{1,9}(/\d{1,9})?$|^\d{1,4}\.\d{1,6}$")

#: Decimal rates that mean a fraction (SMPTE ST 12-1: 24, 30, 60 times 1000/1001) [SMPTE12-1].
_NTSC = {
    "23.976": Fraction(24000, 1001), "23.98": Fraction(24000, 1001),
    "29.97": Fraction(30000, 1001), "59.94": Fraction(60000, 1001), "47.95": Fraction(48000, 1001),
}  # fmt: skip


def parse_rate(value: object) -> Fraction:
    """A rate from text or number; ValueError that says what is expected.

    >>> parse_rate("23.976"), parse_rate("24000/1001"), parse_rate(25)
    (Fraction(24000, 1001), Fraction(24000, 1001), Fraction(25, 1))
    """
    text = str(value).strip()
    if not isinstance(value, Fraction) and not _FORM.match(text):
        raise ValueError(f"{text!r} is not a frame rate; write 25, 24000/1001 or 29.97")
    try:
        rate = _NTSC.get(text) or Fraction(text)
    except ZeroDivisionError:
        rate = Fraction(0)
    if not 0 < rate <= 1000:
        raise ValueError(f"{text!r} is not a frame rate between 0 and 1000")
    return rate


Rate = Annotated[
    Fraction,
    BeforeValidator(parse_rate),
    PlainSerializer(str, return_type=str),
    WithJsonSchema({"type": "string", "examples": ["25", "24000/1001"], "title": "Frame rate"}),
]
