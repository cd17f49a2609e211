"""Damage that a decoder passes over without a word, in sentences: what it drops or makes up is named.

Sources: PNG (Third Edition), 5.3, chunk layout with its CRC [PNG3]; TIFF 6.0, section 5, ColorMap (320).
"""

from __future__ import annotations

import struct
import zlib
from pathlib import Path

#: What is lost where the decoder drops a chunk whose checksum is wrong.
_LOST = {
    b"tRNS": "its transparency is dropped", b"iCCP": "its colour profile is not used",
    b"PLTE": "its colours may be wrong", b"gAMA": "its gamma is not used",
    b"cHRM": "its primaries are not used",
    b"sRGB": "its colour space is not used", b"cICP": "its colour space is not used",
    b"IDAT": "its pixels may be wrong", b"sBIT": "its significant bits are not known",
}  # fmt: skip
_SIGNATURE = b"\x89PNG\r\n\x1a\n"


def damage_notes(path: Path) -> list[str]:
    """What of a PNG or TIFF file does not hold together, though it can be read."""
    ending = path.suffix.lower()
    try:
        if ending == ".png":
            return _png(path)
        return _tiff(path) if ending in {".tif", ".tiff"} else []
    except (OSError, struct.error):
        return []


def _png(path: Path) -> list[str]:
    found: list[str] = []
    with path.open("rb") as file:
        if file.read(8) != _SIGNATURE:
            return []
        while len(head := file.read(8)) == 8:
            length, kind = struct.unpack(">I4s", head)
            body, checksum = file.read(length), file.read(4)
            if len(checksum) < 4:
                found.append("It ends in the middle of a chunk.")
                break
            if zlib.crc32(kind + body) != struct.unpack(">I", checksum)[0]:
                name = kind.decode("ascii", "replace")
                lost = _LOST.get(kind, "what it holds is not used")
                sentence = f"Its chunk {name} is damaged (the checksum is wrong): {lost}. Copy it again."
                if sentence not in found:
                    found.append(sentence)
            if kind == b"IEND":
                break
    return found


def _tiff(path: Path) -> list[str]:
    """Of the first directory of a classic TIFF: a colour map that is shorter than its bits ask for."""
    with path.open("rb") as file:
        order = {b"II": "<", b"MM": ">"}.get(file.read(2))
        if order is None or struct.unpack(order + "H", file.read(2))[0] != 42:
            return []
        file.seek(struct.unpack(order + "I", file.read(4))[0])
        (count,) = struct.unpack(order + "H", file.read(2))
        tags = {}
        for _ in range(min(count, 4096)):
            number, kind, many, value = struct.unpack(order + "HHI4s", file.read(12))
            tags[number] = kind, many, value
        size = path.stat().st_size

    def short(number: int, usual: int) -> int:
        return int(struct.unpack(order + "H", tags[number][2][:2])[0]) if number in tags else usual

    if short(262, 1) != 3:  # no palette
        return []
    _, many, where = tags.get(320, (3, 0, b"\0\0\0\0"))
    begins = struct.unpack(order + "I", where)[0]
    wanted = 3 << short(258, 8)
    if many >= wanted and begins + 2 * wanted <= size:
        return []
    return ["Its colour map is cut short or missing: its colours are not right. Copy or export it again."]
