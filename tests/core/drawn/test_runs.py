"""Directions and scripts: by the standard's own examples; lines as FriBidi and Raqm lay them."""

import numpy as np
import pytest
from core.drawn.made_fonts import ARABIC, DEVANAGARI, HEBREW, save_font
from neatveil.drawn.font_files import give
from neatveil.drawn.fonts import font_of, units_of
from neatveil.drawn.outline import coverage
from neatveil.drawn.runs import break_places, runs_from_right, runs_of
from neatveil.drawn.text import Setting, text_lines, text_outlines
from PIL import Image, ImageDraw, ImageFont, features


def seen(text, from_right=False):
    """Each run's letters as they are read, runs as they are seen."""
    return [text[r.start : r.end] for r in runs_of(text, from_right)]


def test_directions_are_those_of_the_standards_examples():
    """Unicode Standard Annex 9, section 3.4; its capitals stand for letters from the right."""
    assert seen("car means אבג.") == ["car means ", "אבג", "."]
    assert runs_of("car means אבג.")[1].backward
    # MEANS in a paragraph of CAR MEANS car.: the full stop stands at the left, the Latin word before it
    assert [t.strip() for t in seen("אבג דהו car.", from_right=True)] == [".", "car", "אבג דהו"]
    assert runs_from_right("«אבג» car")
    assert not runs_from_right("car אבג")


def test_runs_are_of_one_script():
    assert [(r.script, r.backward) for r in runs_of("Reed Ωμ Ёж")] == [
        ("Latn", False), ("Grek", False), ("Cyrl", False),
    ]  # fmt: skip
    assert seen("(12) नमस्ते!") == ["(12) नमस्ते!"]


@pytest.mark.parametrize(
    ("path", "text"),
    [
        (HEBREW, "abc אבג def 123 אב"),
        (HEBREW, "שלום abc 12 (דג)."),
        (HEBREW, "«Reed» Ёж Ωμέγα, שָׁלוֹם"),
        (ARABIC, "مرحبا بالعالم"),
        (ARABIC, "قصب ٢٠٢٦ reeds لا إله"),
        (ARABIC, "بِسْمِ ٱللَّهِ"),
        (DEVANAGARI, "नमस्ते दुनिया क्षत्रिय"),
        (DEVANAGARI, "श्री १२ ok र्कि"),
    ],
)
def test_lines_of_other_scripts_are_drawn_as_raqm_lays_them(path, text):
    """Pillow's text, shaped in runs of Raqm and FriBidi, drawn by FreeType eight times larger."""
    assert features.check("raqm")
    assert features.check("fribidi")
    size, over = 48, 8
    (font,) = give(path)
    (line,) = text_lines(text, Setting(font=font.key, size=size))
    theirs = ImageFont.truetype(str(path), size * over, layout_engine=ImageFont.Layout.RAQM)
    assert line.width == pytest.approx(theirs.getlength(text) / over, abs=0.1)
    height, width = 2 * size, int(line.width) + 2 * size
    ascent = theirs.getmetrics()[0]
    large = Image.new("L", (width * over, height * over))
    ImageDraw.Draw(large).text((size * over, ascent), text, 255, font=theirs, anchor="ls")
    expected = np.asarray(large, float).reshape(height, over, width, over).mean((1, 3)) / 255
    letters = text_outlines(text, Setting(font=font.key, size=size, align="left", vertical="top"))
    # both on the same baseline: ours lies its font's ascent below the point, theirs at it
    ours = font_of(font.key, 400)
    own_ascent = ours.get_font_extents("ltr").ascender * size / units_of(ours)
    shift = np.array((size, ascent / over - own_ascent))
    got = coverage([corners + shift for letter in letters for corners in letter], height, width)
    assert expected.max() > 0.9
    assert np.abs(got - expected).mean() < 0.003


def test_lines_of_a_paragraph_from_right_to_left_all_run_so():
    (font,) = give(HEBREW)
    text = "אבג דהו reed, marsh! אבג"
    setting = Setting(font=font.key, size=40, box=200)
    lines = text_lines(text, setting)
    assert len(lines) > 1
    assert all(line.width <= 200 for line in lines)
    whole = [g.number for g in text_lines("marsh!", Setting(font=font.key))[0].glyphs]
    marsh = next(line for line in lines if whole[1] in [g.number for g in line.glyphs])
    numbers = [g.number for g in marsh.glyphs]
    assert numbers.index(whole[-1]) < numbers.index(whole[0]), "its exclamation mark stands at the left"


def test_east_asian_lines_break_between_letters_but_not_before_a_full_stop(tmp_path):
    """Unicode Standard Annex 14: rule LB13 keeps closing marks at the line before."""
    assert break_places("水辺の葦、夜明け。") == (1, 2, 3, 5, 6, 7, 9)
    assert break_places("the reeds") == (3, 9)
    (font,) = give(save_font(tmp_path / "m.ttf", letters="水辺の葦、夜明け。"))
    lines = text_lines("水辺の葦、夜明け。", Setting(font=font.key, size=10, box=25))
    assert [len(line.glyphs) for line in lines] == [3, 4, 2]
    assert all(line.width <= 25 for line in lines)
