"""What is drawn: an SVG file of many paths, and a paragraph of text changed; beside the libraries."""

from __future__ import annotations

import random
import tempfile
from itertools import count
from pathlib import Path

import pyvips
import uharfbuzz as hb
from measure import Row, best_of, ms, sized
from neatveil.comp.loading import parse_comp
from neatveil.drawn.fonts import font_of
from neatveil.evaluate import Evaluator
from neatveil.io.backends.svg import draw
from neatveil.io.decoder import LocalDecoder

PATHS, WIDTH, HEIGHT = sized((10_000, 3840, 2160), (60, 384, 216))
WORDS = "The reeds stand where the boards end, and past them the water takes what light is left of the day. "


def _paths() -> str:
    """Closed curves all over the picture, half of them half covering."""
    rng = random.Random(1)
    rows = [f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH}" height="{HEIGHT}">']
    for _ in range(PATHS):
        x, y = rng.uniform(0, WIDTH), rng.uniform(0, HEIGHT)
        c = [f"{rng.uniform(-60, 60):.1f}" for _ in range(10)]
        rows.append(
            f'<path d="M{x:.1f} {y:.1f}c{" ".join(c[:6])}s{" ".join(c[6:])}z" '
            f'fill="#{rng.randrange(1 << 24):06x}" fill-opacity="{rng.choice([1, 0.5])}"/>'
        )
    return "".join(rows) + "</svg>"


def _svg(folder: Path) -> Row:
    path, text = folder / "paths.svg", _paths()
    path.write_text(text)

    def library() -> None:
        pyvips.Image.svgload_buffer(text.encode(), dpi=96, scale=0.75).numpy()

    times = best_of({"ours": lambda: draw(path, 0), "library": library}, rounds=3)
    ratio = times["ours"] / times["library"]
    alone = f"librsvg alone {ms(times['library'])}"
    return Row(f"SVG of {PATHS:,} paths, 4K", ms(times["ours"]), alone, ratio, "<= 1.2", ratio <= 1.2,
               "read, checked, drawn, as shares of 1")  # fmt: skip


def _paragraph() -> Row:
    """A letter more in a paragraph over a whole frame: its first picture, at the size that screens ask."""
    evaluator, turn = Evaluator(LocalDecoder()), count()
    font = font_of("serif", 400)

    def ours() -> None:
        words = f"{WORDS * 6}{next(turn)}"
        made = {"kind": "text", "text": words, "font": "serif", "size": 54, "box": 1600}
        comp = {
            "width": 1920, "height": 1080,
            "layers": [{"kind": "made", "id": "t", "name": "t", "made": made}],
        }  # fmt: skip
        evaluator.picture(parse_comp(comp), 1, level=1)

    def library() -> None:
        text = hb.Buffer()
        text.add_str(f"{WORDS * 6}{next(turn)}")
        text.guess_segment_properties()
        hb.shape(font, text)
        for info in text.glyph_infos:
            font.draw_glyph(info.codepoint, _PENS, None)

    times = best_of({"ours": ours, "library": library}, rounds=9)
    ratio, alone = times["ours"] / times["library"], f"its outlines {ms(times['library'])}"
    return Row("a paragraph changed, first picture", ms(times["ours"]), alone, ratio, "< 60 ms",
               times["ours"] < 0.06, "600 letters")  # fmt: skip


_PENS = hb.DrawFuncs()


def made() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        return [_svg(Path(folder)), _paragraph()]
