"""Font files that a project brings: known by what they hold, checked before they are used [OpenType].

A document that names one means the same wherever it is drawn. Of a collection each font has a key of its own.
"""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any, NamedTuple

import uharfbuzz as hb

from ..apart import tried_apart
from ..errors import NeatVeilError
from ..keyed_files import KEY_PATTERN as FILE_PATTERN
from ..keyed_files import KeyedFiles, key_of

#: What the key of one looks like: what its file holds, and which font of a collection it is.
KEY_PATTERN = rf"{FILE_PATTERN}(?:-[1-9][0-9]{{0,2}})?"
ENDINGS = (".ttf", ".otf", ".ttc", ".otc")
MOST_BYTES = 64 << 20
#: Fonts of a collection, and points of a single letter's outlines: more belongs to no font that sets text.
MOST_FONTS = 100
MOST_POINTS = 20_000
#: Bytes that the checking process may have, and seconds that it may take.
MEMORY = 2 << 30
SECONDS = 60.0

_ADVICE = "Take a font with outlines as a .ttf, .otf or .ttc file."
_WEIGHT = "wght"


class FontRefused(NeatVeilError):
    """A file is no font that can be used."""

    code = "font-refused"


class FontMissing(NeatVeilError):
    """A document names a font file that is not here."""

    code = "font-missing"


class FontFacts(NamedTuple):
    """``lightest``, ``boldest``: its weights; both 0 where it has one alone."""

    key: str
    title: str
    letters: int
    lightest: float
    boldest: float


#: Those that were brought; of a collection under the key of its first font.
FILES = KeyedFiles(ENDINGS)


def give(path: Path) -> list[FontFacts]:
    """Use the fonts of a file from now on. Raises `FontRefused` where it cannot be used."""
    found = fonts_in(path)
    FILES.give(found[0].key, path)
    return found


def path_of(key: str) -> tuple[Path, int]:
    """The file that a key stands for, and which of its fonts; `FontMissing` where it is not here."""
    name = key[: len(key_of(b""))]
    path = FILES.path_of(name)
    if path is None:
        raise FontMissing(
            f"The font file {key} is not here.",
            advice="Add the file again, or choose another font.",
            where=key,
        )
    return path, int(key[len(name) + 1 :] or 0)


def title_of(key: str) -> str:
    """A font's own name; `FontMissing` where it is not here."""
    path, number = path_of(key)
    return _title(hb.Face(hb.Blob.from_file_path(str(path)), number), path.stem)


def fonts_in(path: Path, called: str = "") -> list[FontFacts]:
    """The fonts of a file, every letter of each drawn once.

    Parameters
    ----------
    path : of the file.
    called : its name as people know it; its own unless given.

    Raises
    ------
    FontRefused
        It is no font, has no letters or no outlines, or one that is beyond measure; says which.
    """
    name = called or path.name
    data = path.read_bytes()
    count = _count(data, name)
    key = key_of(data)
    blob = hb.Blob(data)
    found = []
    for number in range(count):
        face = hb.Face(blob, number)
        letters = len(face.unicodes)
        if not face.glyph_count or not letters or face.upem < 16:
            raise FontRefused(f"{name} is no font that text can be set in.", advice=_ADVICE, where=name)
        _check_outlines(face, name)
        weights = next(((a.min_value, a.max_value) for a in face.axis_infos if a.tag == _WEIGHT), (0.0, 0.0))
        own = f"{key}-{number}" if number else key
        found.append(FontFacts(own, _title(face, Path(name).stem), letters, *weights))
    return found


def fonts_apart(
    path: Path, called: str, *, seconds: float = SECONDS, memory: int = MEMORY
) -> list[FontFacts]:
    """As `fonts_in`, in a process of its own; raises as it, also where that ended badly."""
    told = tried_apart(fonts_in, path, called, FontRefused, _ADVICE, seconds=seconds, memory=memory)
    return [FontFacts(*row) for row in told]


def _count(data: bytes, name: str) -> int:
    """Of the fonts in a file; a collection says it itself."""
    if data[:4] not in (b"\x00\x01\x00\x00", b"OTTO", b"true", b"ttcf"):
        web = " It is packed for web pages." if data[:4] in (b"wOFF", b"wOF2") else ""
        raise FontRefused(f"{name} is no OpenType font.{web}", advice=_ADVICE, where=name)
    if data[:4] != b"ttcf":
        return 1
    count = int.from_bytes(data[8:12])
    if not 1 <= count <= MOST_FONTS:
        raise FontRefused(
            f"{name} is a collection of {count} fonts.", advice=f"It may have {MOST_FONTS}.", where=name
        )
    return count


def _check_outlines(face: Any, name: str) -> None:
    """Some letter has an outline, and none is beyond measure."""
    font = hb.Font(face)
    pen = _Counting()
    drawn = False
    for glyph in range(face.glyph_count):
        pen.count = 0
        font.draw_glyph_with_pen(glyph, pen)
        drawn = drawn or pen.count > 0
        if pen.count > MOST_POINTS:
            raise FontRefused(
                f"{name}: an outline has more than {MOST_POINTS:,} points.", advice=_ADVICE, where=name
            )
    if not drawn:
        raise FontRefused(f"{name} has pictures of letters, no outlines.", advice=_ADVICE, where=name)


class _Counting:
    """A pen that counts what it is given."""

    count = 0

    def moveTo(self, *_: object) -> None:
        self.count += 1

    lineTo = curveTo = qCurveTo = moveTo

    def closePath(self) -> None:
        """Nothing more to count."""


def _title(face: Any, otherwise: str) -> str:
    """Family and style, as its name table has them; on one line."""
    family = face.get_name(hb.OTNameIdPredefined.TYPOGRAPHIC_FAMILY) or face.get_name(
        hb.OTNameIdPredefined.FONT_FAMILY
    )
    style = face.get_name(hb.OTNameIdPredefined.TYPOGRAPHIC_SUBFAMILY) or face.get_name(
        hb.OTNameIdPredefined.FONT_SUBFAMILY
    )
    words = " ".join(f"{family or otherwise} {style or ''}".split())
    return re.sub(r"[^\w\s.,()+&'/-]", "", words)[:80].strip() or otherwise[:80]
