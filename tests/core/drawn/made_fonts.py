"""Font files made for tests: squares for letters, or what is wrong with them."""

from pathlib import Path

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen

#: Where Debian's packages put fonts of other scripts: fonts-dejavu-core, fonts-hosny-amiri, fonts-lohit-deva.
DEBIAN = Path("/usr/share/fonts")
HEBREW = DEBIAN / "truetype/dejavu/DejaVuSans.ttf"
ARABIC = DEBIAN / "opentype/fonts-hosny-amiri/Amiri-Regular.ttf"
DEVANAGARI = DEBIAN / "truetype/lohit-devanagari/Lohit-Devanagari.ttf"


def square(points=4, size=500):
    pen = TTGlyphPen(None)
    if points:
        pen.moveTo((100, 0))
        for i in range(points - 3):
            pen.lineTo((100 + size * i // max(points - 3, 1), size // 9 if i % 2 else 0))
        pen.lineTo((100 + size, 0))
        pen.lineTo((100 + size, size))
        pen.lineTo((100, size))
        pen.closePath()
    return pen.glyph()


def save_font(path, letters="Marsh 沼地の", name="Marsh Display", points=4, **names):
    """A font in which each letter is a square, six tenths of its size wide; the space has none."""
    order = [".notdef", *(f"u{ord(c):04X}" for c in dict.fromkeys(letters))]
    build = FontBuilder(1000, isTTF=True)
    build.setupGlyphOrder(order)
    build.setupCharacterMap({ord(c): f"u{ord(c):04X}" for c in letters})
    build.setupGlyf({n: square(0 if n == "u0020" else points) for n in order})
    build.setupHorizontalMetrics(dict.fromkeys(order, (600, 100)))
    build.setupHorizontalHeader(ascent=800, descent=-200)
    build.setupNameTable({"familyName": name, "styleName": "Regular", **names})
    build.setupOS2(sTypoAscender=800, sTypoDescender=-200, usWinAscent=800, usWinDescent=200)
    build.setupPost()
    build.save(path)
    return path
