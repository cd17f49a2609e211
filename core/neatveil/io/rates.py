"""Exact frame rates from headers that hold a floating-point number."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

#: Rates that are not whole and are in use: whole ones over 1.001.
_BROADCAST = tuple(Fraction(n * 1000, 1001) for n in (24, 30, 48, 60, 120))


def rate_of_times(times: Sequence[int], clock: Fraction) -> Fraction | None:
    """The rate of frames whose times are rounded to a clock.

    Parameters
    ----------
    times : at which each frame begins, from 0, and at which the last one ends, in ticks of the clock.
    clock : seconds of a tick.

    Returns
    -------
    A usual rate whose rounded times these are, or their mean; None where they say nothing.

    Examples
    --------
    >>> rate_of_times([0, 42, 83, 125, 167, 208, 250], Fraction(1, 1000))
    Fraction(24, 1)
    """
    if len(times) < 2 or times[-1] <= times[0]:
        return None
    mean = Fraction(len(times) - 1, times[-1] - times[0]) / clock
    for rate in (Fraction(round(mean)), *_BROADCAST):
        if rate and all(abs(t - n / rate / clock) <= Fraction(1, 2) for n, t in enumerate(times)):
            return rate
    return mean


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
