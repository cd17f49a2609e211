"""Exact frame rates from headers that hold a floating-point number."""

from __future__ import annotations

from fractions import Fraction

#: Rates that are not whole and are in use: whole ones over 1.001.
_BROADCAST = tuple(Fraction(n * 1000, 1001) for n in (24, 30, 48, 60, 120))


def usual_rate(said: float | None) -> str | None:
    """The exact rate that a header's number stands for, as a fraction such as ``24000/1001``.

    >>> usual_rate(23.976)
    '24000/1001'
    """
    if said is None:
        return None
    for rate in (Fraction(round(said)), *_BROADCAST):
        if rate > 0 and abs(said / float(rate) - 1) < 2e-5:
            return str(rate)
    return str(Fraction(said).limit_denominator(1001))
