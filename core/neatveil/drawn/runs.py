"""A line of text as runs of one script and one direction, in the order in which they are seen.

Directions are those of the Unicode Bidirectional Algorithm [UAX9], worked out by the library; scripts those
of the Unicode Character Database [UAX24]. Lines may be broken at spaces, and in text with East Asian letters
where [UAX14] lets them.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from functools import lru_cache
from itertools import groupby
from typing import NamedTuple

from bidi import get_base_level, get_display
from fontTools.unicodedata import script
from uniseg.linebreak import line_break_boundaries

#: Bidirectional classes that make a line other than left to right throughout.
_TURNING = {"R", "AL", "AN", "RLE", "RLO", "RLI", "LRE", "LRO", "LRI", "FSI"}
#: Scripts of characters that take that of their neighbours.
_SHARED = {"Zyyy", "Zinh", "Zzzz"}
_EAST_ASIAN = {"Hani", "Hira", "Kana", "Hang", "Bopo", "Yiii"}


class Run(NamedTuple):
    """``start``, ``end``: in the text; ``script``: by ISO 15924; ``backward``: right to left."""

    start: int
    end: int
    script: str
    backward: bool


@lru_cache(maxsize=512)
def runs_of(text: str, from_right: bool = False) -> tuple[Run, ...]:
    """From left to right as they are seen, each in the order in which it is read.

    ``from_right``: the line is of a paragraph that runs from right to left, see `runs_from_right`.
    """
    if text.isascii() and not from_right:
        return (Run(0, len(text), "Latn", False),)
    levels, scripts = _levels(text, from_right), _scripts(text)
    runs, start = [], 0
    for (level, name), members in groupby(zip(levels, scripts, strict=True)):
        end = start + len(list(members))
        runs.append((level, Run(start, end, name, level % 2 == 1)))
        start = end
    return tuple(_ordered(runs))


def runs_from_right(paragraph: str) -> bool:
    """Whether a paragraph runs from right to left: by its first letter that has a direction [UAX9]."""
    return not paragraph.isascii() and bool(get_base_level(paragraph))


@lru_cache(maxsize=512)
def break_places(text: str) -> tuple[int, ...]:
    """Where a line may end before what stands there, the text's end among them."""
    spaces = {i for i, c in enumerate(text) if c == " "}
    if not text.isascii() and any(script(c) in _EAST_ASIAN for c in text):
        # behind a space the line begins; what ends before it ends at the space
        spaces |= {i for i in line_break_boundaries(text) if i and text[i - 1] != " "}
    return tuple(sorted({*spaces, len(text)}))


def _levels(text: str, from_right: bool) -> list[int]:
    """Of embedding, for each character; the library tells them for each byte of UTF-8."""
    if not from_right and not any(unicodedata.bidirectional(c) in _TURNING for c in text):
        return [0] * len(text)
    told = str(get_display(text, base_dir="R" if from_right else "L", debug=True))
    listed = told.rpartition("levels:")[2].partition("paragraphs:")[0]
    of_bytes = [int(level) for level in re.findall(r"Level\(\s*(\d+)", listed)]
    levels, at = [], 0
    for character in text:
        levels.append(of_bytes[at])
        at += len(character.encode())
    return levels


def _scripts(text: str) -> list[str]:
    """Shared characters such as spaces and digits go with what stands before them, at the start with what
    follows."""
    found: list[str] = []
    last = next((s for c in text if (s := script(c)) not in _SHARED), "Latn")
    for character in text:
        own = script(character)
        last = last if own in _SHARED else own
        found.append(last)
    return found


def _ordered(runs: Sequence[tuple[int, Run]]) -> list[Run]:
    """Rule L2 of [UAX9]: from the highest level to the lowest odd one, what lies at it or above is turned
    round."""
    placed = list(runs)
    highest = max((level for level, _ in placed), default=0)
    for turned in range(highest, 0, -1):
        placed = _turned_round(placed, turned)
    return [run for _, run in placed]


def _turned_round(runs: list[tuple[int, Run]], lowest: int) -> list[tuple[int, Run]]:
    found: list[tuple[int, Run]] = []
    for is_turned, group in groupby(runs, lambda row: row[0] >= lowest):
        members = list(group)
        found += members[::-1] if is_turned else members
    return found
