"""Text against FreeType's rendering and metrics, and against the fonts' own tables."""

from pathlib import Path

import freetype
import neatveil.drawn.fonts as fonts
import numpy as np
import pytest
from fontTools.ttLib import TTFont
from neatveil.drawn.fonts import FONTS, font_of, letter
from neatveil.drawn.outline import coverage
from neatveil.drawn.text import Setting, text_lines, text_outlines
from neatveil.errors import ValueRefused


def path(name):
    return str(Path(fonts.__file__).parent / "fonts" / fonts._FILES[name])


def face(name, weight, size):
    """FreeType's, at the same weight; other axes at their defaults."""
    found = freetype.Face(path(name))
    info = found.get_variation_info()
    found.set_var_design_coords([weight if a.tag == "wght" else a.default for a in info.axes])
    found.set_char_size(round(size * 64))
    return found


def drawn_by_freetype(name, weight, size, glyphs, height, width, over=8):
    """Coverage of glyphs at ``(number, x, baseline)``: drawn larger and averaged, as FreeType rounds points
    to 1/64 of a pixel."""
    out = np.zeros((height * over, width * over))
    theirs = face(name, weight, size * over)
    for number, x, y in ((n, x * over, y * over) for n, x, y in glyphs):
        whole = freetype.Matrix(0x10000, 0, 0, 0x10000)
        shift = freetype.Vector(round((x - np.floor(x)) * 64), round((np.ceil(y) - y) * 64))
        theirs.set_transform(whole, shift)
        theirs.load_glyph(number, freetype.FT_LOAD_NO_HINTING | freetype.FT_LOAD_RENDER)
        bitmap = theirs.glyph.bitmap
        if not bitmap.width:
            continue
        rows = np.array(bitmap.buffer, float).reshape(bitmap.rows, bitmap.pitch)[:, : bitmap.width] / 255
        top, left = int(np.ceil(y)) - theirs.glyph.bitmap_top, int(np.floor(x)) + theirs.glyph.bitmap_left
        out[top : top + bitmap.rows, left : left + bitmap.width] += rows
    return np.minimum(out, 1).reshape(height, over, width, over).mean((1, 3))


@pytest.mark.parametrize("name", FONTS)
@pytest.mark.parametrize(("size", "weight"), [(13.0, 400.0), (37.0, 250.0), (90.0, 860.0)])
def test_letters_are_covered_as_freetype_covers_them(name, size, weight):
    setting = Setting(font=name, size=size, weight=weight, align="left", vertical="top")
    (line,) = text_lines("Reeds, 8@go", setting)
    height, width = int(size * 2), int(line.width + size)
    places = [(g.number, 4 + g.x, size * 1.2) for g in line.glyphs]
    flat = [c + np.array((x, y)) for n, x, y in places for c in letter(name, weight, n, size)]
    got = coverage(flat, height, width)
    theirs = drawn_by_freetype(name, weight, size, places, height, width)
    assert theirs.max() > 0.9
    assert np.abs(got - theirs).mean() < 0.003
    assert abs(got.sum() / theirs.sum() - 1) < 0.003


@pytest.mark.parametrize("name", FONTS)
def test_letters_advance_as_the_font_says(name):
    """Advances of single letters, by FreeType, unhinted."""
    theirs = face(name, 600.0, 64.0)
    for character in "aMi.Я":
        (line,) = text_lines(character, Setting(font=name, size=64.0, weight=600.0))
        theirs.load_char(character, freetype.FT_LOAD_NO_HINTING)
        assert line.width == pytest.approx(theirs.glyph.linearHoriAdvance / 65536, abs=0.06)


def test_pairs_are_kerned_and_ligatures_joined_unless_letters_are_set_apart():
    names = TTFont(path("sans")).getGlyphOrder()

    def glyphs(text, **setting):
        (line,) = text_lines(text, Setting(**setting))
        return [names[g.number] for g in line.glyphs], line.width

    assert glyphs("AV")[1] < glyphs("A")[1] + glyphs("V")[1] - 1
    assert len(glyphs("fft")[0]) < 3
    assert glyphs("fft", tracking=50)[0] == ["f", "f", "t"]
    # between three letters twice, and not behind the last
    assert glyphs("nnn", size=40, tracking=100)[1] == pytest.approx(glyphs("nnn", size=40)[1] + 8)


def test_lines_break_at_spaces_and_keep_to_the_box():
    text = "the reeds stand in the water and the marsh lies still"
    setting = Setting(size=30, box=260)
    lines = text_lines(text, setting)
    assert len(lines) > 2
    assert all(0 < line.width <= 260 for line in lines)
    # no line could have taken the next one's first word
    words, taken = text.split(" "), []
    for line in lines:
        part = []
        while words and text_lines(" ".join([*part, words[0]]), Setting(size=30))[0].width <= 260:
            part.append(words.pop(0))
        taken.append(" ".join(part))
        assert len(line.glyphs) <= len(taken[-1])
    assert not words
    assert len(taken) == len(lines)
    long = text_lines("Wassergrasflur im Schilf", Setting(size=60, box=100))
    assert len(long) == 3
    assert long[0].width > 100


def test_text_lies_about_its_point():
    def box(**setting):
        corners = np.concatenate([c for o in text_outlines("nn\nn", Setting(size=50, **setting)) for c in o])
        return corners.min(axis=0), corners.max(axis=0)

    low, high = box(align="left", vertical="top")
    assert 0 <= low[0] < 6
    assert low[1] > 0
    low, high = box(align="right", vertical="bottom")
    assert -6 < high[0] <= 0
    assert high[1] < 0
    low, high = box()
    assert abs(low[0] + high[0]) < 1
    # two lines are a leading apart
    a, b = box(vertical="top", leading=1.0), box(vertical="top", leading=2.0)
    assert b[1][1] - a[1][1] == pytest.approx(50)


def test_every_font_has_latin_greek_and_cyrillic_at_every_weight():
    for name in FONTS:
        for weight in (200, 555, 900):
            text_outlines("Ærø žluť Ωμέγα Ёж", Setting(font=name, weight=weight))
            # every letter of ASCII has outlines, but for the space
            ascii_letters = "".join(map(chr, range(33, 127)))
            assert len(text_outlines(ascii_letters, Setting(font=name, weight=weight, tracking=1))) == 94
    assert font_of("sans", 200) is font_of("sans", 200)


def test_letters_that_the_font_has_not_got_are_named():
    with pytest.raises(ValueRefused, match=r"Sans has no letters for 沼 \(U\+6CBC\), 地 \(U\+5730\)\."):
        text_outlines("marsh 沼地 沼", Setting())


def test_an_empty_text_is_nothing():
    assert text_outlines("", Setting()) == []
    assert text_outlines(" \n ", Setting()) == []
