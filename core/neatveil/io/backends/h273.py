"""Colour as ITU-T H.273 numbers it in movies and PNG: primaries (table 2) and transfers (table 3) [H273]."""

from __future__ import annotations

from ...colour import encoding_named
from ...colour.encodings import encoding_name
from ...colour.spaces import is_space

UNSAID = 2
_TRANSFER = {1: "rec709", 13: "srgb", 8: "linear", 16: "pq", 18: "hlg"}
#: Those of BT.601 are let pass for BT.709's, since movies of every kind carry its number by default.
_PRIMARIES = {9: "bt2020", 12: "p3-d65"}
#: Transfer and primaries of displays.
_DISPLAYS = {
    "sRGB - Display": (13, 1), "Rec.1886 Rec.709 - Display": (1, 1), "Rec.1886 Rec.2020 - Display": (14, 9),
    "Rec.2100-PQ - Display": (16, 9), "Rec.2100-HLG - Display": (18, 9), "ST2084-P3-D65 - Display": (16, 12),
    "Display P3 - Display": (13, 12),
}  # fmt: skip


def codes_of(encoding: str) -> tuple[int, int]:
    """Transfer and primaries of an encoding; of a view those of its display. 2 where there is no number."""
    if is_space(encoding):
        return _DISPLAYS.get(encoding.partition("/")[2].partition("|")[0], (UNSAID, UNSAID))
    meaning = encoding_named(encoding)
    transfer = next((n for n, name in _TRANSFER.items() if name == meaning.name), UNSAID)
    named = {name: n for n, name in _PRIMARIES.items()} | {"bt709": 1}
    return transfer, named.get(meaning.primaries, UNSAID)


def encoding_of(transfer: int, primaries: int, usual: str) -> tuple[str, bool]:
    """The encoding of two numbers, and whether the transfer is said at all; ``usual``: where it is not."""
    named = _TRANSFER.get(transfer)
    return encoding_name(named or usual, _PRIMARIES.get(primaries, "bt709")), named is not None
