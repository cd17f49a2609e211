"""Frames as people write them: single ones and ranges, ``1-20,35``."""

from __future__ import annotations

import re
from collections.abc import Iterable

from .errors import ValueRefused

_PART = re.compile(r"(-?\d{1,7})(?:\s*-\s*(-?\d{1,7}))?")
#: More are refused before they are counted out.
MOST = 1_000_000


def parse_frames(text: str) -> list[int]:
    """The frames of a text, in rising order, each once.

    Parameters
    ----------
    text : single frames and ranges with commas between, such as ``1-20,35``; numbers may be below 0.

    Returns
    -------
    Frame numbers; at least one.

    Raises
    ------
    ValueRefused
        Something in it is no frame or range, a range falls, or there are more than a million.

    Examples
    --------
    >>> parse_frames("1-3, 7,2")
    [1, 2, 3, 7]
    """
    found: set[int] = set()
    for part in text.split(","):
        match = _PART.fullmatch(part.strip())
        if match is None:
            raise ValueRefused(
                f"{part.strip() or text!r} is no frame or range of frames.",
                advice="Write frames as 1-20,35.", where="frames",
            )  # fmt: skip
        first, last = int(match[1]), int(match[2] or match[1])
        if last < first:
            raise ValueRefused(
                f"{part.strip()}: the last frame lies before the first.",
                advice=f"Write {last}-{first}.", where="frames",
            )  # fmt: skip
        if last - first >= MOST:
            raise ValueRefused(f"{part.strip()} are more than a million frames.", where="frames")
        found.update(range(first, last + 1))
    return sorted(found)


def frames_in_words(frames: Iterable[int]) -> str:
    """The shortest text that `parse_frames` reads as these frames.

    Parameters
    ----------
    frames : numbers in any order.

    Returns
    -------
    Such as ``1-20,35``.

    Examples
    --------
    >>> frames_in_words([35, 1, 2, 3])
    '1-3,35'
    """
    return ",".join(str(a) if a == b else f"{a}-{b}" for a, b in runs_of(sorted(set(frames))))


def runs_of(frames: Iterable[int]) -> list[tuple[int, int]]:
    """First and last of every run of numbers that follow one another; ``frames`` rise.

    >>> runs_of([1, 2, 3, 35])
    [(1, 3), (35, 35)]
    """
    found: list[tuple[int, int]] = []
    for n in frames:
        if found and n == found[-1][1] + 1:
            found[-1] = found[-1][0], n
        else:
            found.append((n, n))
    return found
