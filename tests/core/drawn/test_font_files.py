"""Font files of a project: what is told of them, what is refused, and what a text says where one is gone."""

import random
from contextlib import suppress

import pytest
from core.drawn.made_fonts import HEBREW, save_font
from fontTools.ttLib import TTCollection, TTFont
from neatveil.drawn.font_files import FILES, FontMissing, FontRefused, fonts_apart, fonts_in, give, path_of
from neatveil.drawn.fonts import FOLDER
from neatveil.drawn.text import Setting, text_lines, text_outlines
from neatveil.errors import ValueRefused


def test_a_file_is_known_by_what_it_holds_and_says_its_name(tmp_path):
    (font,) = give(save_font(tmp_path / "marsh.ttf"))
    assert (font.title, font.letters, font.lightest) == ("Marsh Display Regular", len(set("Marsh 沼地の")), 0)
    assert fonts_apart(tmp_path / "marsh.ttf", "copy.ttf") == [font]
    other = save_font(tmp_path / "other.ttf", name="Other")
    assert fonts_in(other)[0].key != font.key
    (line,) = text_lines("Mars", Setting(font=font.key, size=50))
    assert line.width == pytest.approx(4 * 0.6 * 50)
    assert len(text_outlines("沼 地", Setting(font=font.key))) == 2


def test_of_a_variable_font_the_weights_are_told_and_used():
    (font,) = give(FOLDER / "SourceSans3VF-Upright.ttf")
    assert (font.lightest, font.boldest) == (200, 900)
    for weight in (250.0, 800.0):
        own, shipped = (text_lines("Reed", Setting(font=n, weight=weight))[0] for n in (font.key, "sans"))
        assert own == shipped


def test_each_font_of_a_collection_has_a_key(tmp_path):
    gathered = TTCollection()
    gathered.fonts = [TTFont(save_font(tmp_path / f"{n}.ttf", name=n)) for n in ("Reed", "Fern")]
    gathered.save(tmp_path / "both.ttc")
    reed, fern = give(tmp_path / "both.ttc")
    assert (reed.title, fern.title) == ("Reed Regular", "Fern Regular")
    assert fern.key == f"{reed.key}-1"
    assert path_of(fern.key) == (tmp_path / "both.ttc", 1)
    assert text_lines("Marsh", Setting(font=fern.key))[0].width > 0


def test_files_are_found_under_their_keys_and_missed_by_name(tmp_path, monkeypatch):
    made = save_font(tmp_path / "m.ttf", name="Kept")
    (font,) = fonts_in(made)
    monkeypatch.setattr(FILES, "_folder", None)
    with pytest.raises(FontMissing, match=font.key):
        text_lines("Marsh", Setting(font=font.key))
    FILES.look_in(lambda: tmp_path / "media")
    (tmp_path / "media").mkdir()
    kept = made.rename(tmp_path / "media" / f"{font.key}.ttf")
    assert text_lines("Marsh", Setting(font=font.key))
    with pytest.raises(ValueRefused, match=r"The font Kept Regular has no letters for q \(U\+0071\)\."):
        text_lines("q", Setting(font=font.key))
    kept.unlink()
    with pytest.raises(FontMissing, match="not here"):
        text_lines("Marsh", Setting(font=font.key))


def save(path, data):
    path.write_bytes(data)
    return path


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda p: save(p, b""), "no OpenType font"),
        (lambda p: save(p, b"<svg/>"), "no OpenType font"),
        (lambda p: save(p, b"wOF2" + bytes(40)), "packed for web pages"),
        (lambda p: save(p, HEBREW.read_bytes()[:300]), "no font that text can be set in"),
        (lambda p: save(p, b"ttcf" + bytes(4) + b"\xff" * 4), "collection of 4294967295 fonts"),
        (lambda p: save_font(p, points=0), "no outlines"),
        (lambda p: save_font(p, letters="M", points=20_500), "more than 20,000 points"),
    ],
)
def test_what_is_no_font_is_refused_by_name(tmp_path, make, said):
    path = make(tmp_path / "f.ttf")
    for look in (fonts_in, fonts_apart):
        with pytest.raises(FontRefused, match=said) as refused:
            look(path, "reed.ttf")
        assert refused.value.where == "reed.ttf"


def test_what_takes_too_long_or_too_much_is_given_up():
    with pytest.raises(FontRefused, match=r"longer than 0\.01 s"):
        fonts_apart(HEBREW, "f.ttf", seconds=0.01)
    with pytest.raises(FontRefused, match="needs too much memory"):
        fonts_apart(HEBREW, "f.ttf", memory=20 << 20)


@pytest.mark.parametrize("seed", range(6))
def test_damaged_files_are_refused_or_drawn_and_end_nothing(tmp_path, seed):
    """Bytes of a font changed here and there, as a bad disk or a hostile sender would."""
    chance = random.Random(seed)
    torn = bytearray((FOLDER / "SourceCodeVF-Upright.ttf").read_bytes())
    for _ in range(400):
        torn[chance.randrange(12, len(torn))] = chance.randrange(256)
    path = save(tmp_path / "torn.ttf", bytes(torn))
    try:
        (font,) = fonts_apart(path, "torn.ttf")
    except FontRefused:
        return
    assert give(path) == [font]
    with suppress(ValueRefused):  # letters may be lost
        text_outlines("Reed", Setting(font=font.key))
