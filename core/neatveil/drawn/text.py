"""Text as outlines: shaped, broken into lines, and laid out about a point.

Lengths are pixels, x to the right and y down. Each line is shaped run by run (`runs.py`), so that scripts and
directions may be mixed. Where a word is longer than the box it sticks out.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Literal, NamedTuple

import numpy as np
import uharfbuzz as hb

from ..errors import ValueRefused
from .fonts import Outlines, font_of, label_of, letter, units_of
from .runs import break_places, runs_from_right, runs_of

#: Letters named where a font has not got them.
_NAMED = 12


@dataclass(frozen=True)
class Setting:
    """How text is set.

    Parameters
    ----------
    size : of the font, pixels.
    weight : 200 to 900; 400 is regular, 700 bold.
    tracking : what is added between letters, thousandths of the size.
    leading : from one baseline to the next, as a share of the size.
    align, vertical : what of the text lies at the point.
    box : width that lines are broken to; 0 breaks none.
    """

    font: str = "sans"
    size: float = 100.0
    weight: float = 400.0
    tracking: float = 0.0
    leading: float = 1.2
    align: Literal["left", "centre", "right"] = "centre"
    vertical: Literal["top", "middle", "bottom"] = "middle"
    box: float = 0.0


class Glyph(NamedTuple):
    """``x``: where it is drawn, from the start of its line; ``y``: from the baseline, down."""

    number: int
    x: float
    y: float


class Line(NamedTuple):
    """``width``: without what tracking adds behind the last letter; ``advances``: of each letter, by its
    place in the text."""

    glyphs: Sequence[Glyph]
    width: float
    advances: Mapping[int, float]


def text_outlines(text: str, setting: Setting, at: tuple[float, float] = (0.0, 0.0)) -> list[Outlines]:
    """Outlines of each letter, about the point that the text is laid ``at``.

    Raises
    ------
    ValueRefused : the font has not got some of the letters; they are named.
    """
    lines = text_lines(text, setting)
    font = font_of(setting.font, setting.weight)
    share = setting.size / units_of(font)
    extents = font.get_font_extents("ltr")
    ascent, descent, pitch = (
        extents.ascender * share,
        -extents.descender * share,
        setting.leading * setting.size,
    )
    height = ascent + (len(lines) - 1) * pitch + descent
    top = {"top": 0.0, "middle": -height / 2, "bottom": -height}[setting.vertical]
    found = []
    for row, line in enumerate(lines):
        baseline = top + ascent + row * pitch
        left = {"left": 0.0, "centre": -line.width / 2, "right": -line.width}[setting.align]
        for glyph in line.glyphs:
            outlines = letter(setting.font, setting.weight, glyph.number, setting.size)
            shift = np.array((at[0] + left + glyph.x, at[1] + baseline + glyph.y))
            found.append(tuple(corners + shift for corners in outlines))
    return [outlines for outlines in found if outlines]


def text_lines(text: str, setting: Setting) -> list[Line]:
    """Shaped lines, broken to the box; raises as `text_outlines`."""
    lines: list[Line] = []
    missing: dict[str, None] = {}
    for paragraph in text.replace("\r\n", "\n").replace("\t", "    ").split("\n"):
        from_right = runs_from_right(paragraph)
        whole = _shaped(paragraph, setting, from_right, missing)
        if not setting.box or whole.width <= setting.box:
            lines.append(whole)
            continue
        lines += [
            _shaped(part, setting, from_right, missing) for part in _broken(paragraph, whole, setting.box)
        ]
    if missing:
        named = ", ".join(f"{c} (U+{ord(c):04X})" for c in list(missing)[:_NAMED])
        more = f" and {len(missing) - _NAMED} more" if len(missing) > _NAMED else ""
        raise ValueRefused(
            f"The font {label_of(setting.font)} has no letters for {named}{more}.",
            advice="Choose a font that has them, or write it in other letters.",
        )
    return lines


def _shaped(text: str, setting: Setting, from_right: bool, missing: dict[str, None]) -> Line:
    """One line; letters that the font has not got are added to ``missing``."""
    if not text:
        return Line([], 0.0, {})
    font = font_of(setting.font, setting.weight)
    share = setting.size / units_of(font)
    # letters that are set apart are not joined (common practice, no source)
    features = {"liga": False, "clig": False} if setting.tracking else {}
    apart = setting.tracking / 1000 * setting.size
    glyphs: list[Glyph] = []
    advances: dict[int, float] = {}
    x = 0.0
    for run in runs_of(text, from_right):
        buffer = hb.Buffer()
        buffer.add_str(text, run.start, run.end - run.start)
        buffer.direction = "rtl" if run.backward else "ltr"
        buffer.script = run.script
        buffer.guess_segment_properties()
        hb.shape(font, buffer, features)
        for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
            if info.codepoint == 0:
                missing[text[info.cluster]] = None
            glyphs.append(Glyph(info.codepoint, x + place.x_offset * share, -place.y_offset * share))
            advance = place.x_advance * share + (apart if place.x_advance else 0.0)
            advances[info.cluster] = advances.get(info.cluster, 0.0) + advance
            x += advance
    return Line(glyphs, x - apart, advances)


def _broken(text: str, shaped: Line, box: float) -> Iterator[str]:
    """A paragraph's lines: as much on each as the box takes."""
    ends = list(accumulate(shaped.advances.get(i, 0.0) for i in range(len(text))))
    start = last = 0
    for place in break_places(text):
        left = ends[start - 1] if start else 0.0
        if last > start and ends[place - 1] - left > box:
            yield text[start:last]
            start = last + 1 if text[last] == " " else last
        last = place
    yield text[start:]
