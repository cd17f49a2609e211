"""Fonts by name, and the letters in them as outlines: those that come along, and files (`font_files.py`).

Of those that come along weights lie between 200 and 900 without steps: the fonts are variable [OpenType].
Shaping and outlines are HarfBuzz's.
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, log2
from pathlib import Path
from typing import Literal, TypeAlias, get_args

import numpy as np
import pathops
import uharfbuzz as hb

from .font_files import KEY_PATTERN as OWN_PATTERN
from .font_files import path_of, title_of
from .outline import Points, flattened

Shipped = Literal["sans", "sans-italic", "serif", "serif-italic", "mono"]
#: Closed polygons ``(M, 2)``.
Outlines: TypeAlias = tuple[Points, ...]

_Point: TypeAlias = tuple[float, float]
#: Start, the two points between, and end of a cubic.
_Curve: TypeAlias = tuple[_Point, _Point, _Point, _Point]

FONTS: tuple[Shipped, ...] = get_args(Shipped)
#: What a document may name: one of them, or a file by its key.
NAME_PATTERN = rf"^(?:{'|'.join(FONTS)}|{OWN_PATTERN})$"
#: Where the fonts lie that come along.
FOLDER = Path(__file__).parent / "fonts"
#: As people choose them.
LABELS: dict[str, str] = {
    "sans": "Sans", "sans-italic": "Sans italic", "serif": "Serif", "serif-italic": "Serif italic",
    "mono": "Mono",
}  # fmt: skip
_FILES: dict[str, str] = {
    "sans": "SourceSans3VF-Upright.ttf",
    "sans-italic": "SourceSans3VF-Italic.ttf",
    "serif": "SourceSerif4Variable-Roman.ttf",
    "serif-italic": "SourceSerif4Variable-Italic.ttf",
    "mono": "SourceCodeVF-Upright.ttf",
}


def font_of(name: str, weight: float) -> hb.Font:
    """A font at a weight, measured in its own units; see `units_of`.

    Raises `FontMissing` where its file is not here.
    """
    path, number = (FOLDER / _FILES[name], 0) if name in _FILES else path_of(name)
    return _font(path, number, weight)


@lru_cache(maxsize=64)
def _font(path: Path, number: int, weight: float) -> hb.Font:
    face = hb.Face(hb.Blob.from_file_path(str(path)), number)
    font = hb.Font(face)
    font.scale = face.upem, face.upem
    font.set_variations({"wght": weight})
    return font


def label_of(name: str) -> str:
    """What a font is called on the screen."""
    return LABELS.get(name) or title_of(name)


def units_of(font: hb.Font) -> float:
    """How many of its units the size of a font is."""
    return float(font.face.upem)


@lru_cache(maxsize=1024)
def letter(name: str, weight: float, glyph: int, size: float) -> Outlines:
    """The outlines of a glyph at a size in pixels, y down from the baseline."""
    fine = 2.0 ** max(3, ceil(log2(max(size, 1e-6))))
    share = size / fine
    return tuple(corners * share for corners in _flat(name, weight, glyph, fine))


@lru_cache(maxsize=4096)
def _flat(name: str, weight: float, glyph: int, size: float) -> Outlines:
    """In pixels at a size. Contours that overlap, as those of variable fonts do, are joined: where two edges
    lie in one pixel its coverage would be counted twice."""
    font = font_of(name, weight)
    path = pathops.Path()
    font.draw_glyph_with_pen(glyph, path.getPen())
    path.simplify(fix_winding=True)
    path.convertConicsToQuads()
    share = size / units_of(font)
    return tuple(flattened(_as_points(c) * share * (1, -1, 1, -1, 1, -1)) for c in path.contours)


def _as_points(contour: pathops.Path) -> Points:
    """``(N, 6)`` as `flattened` takes them: each point with its handles before and after it."""
    curves: list[_Curve] = []
    at = start = (0.0, 0.0)
    for verb, points in contour:
        if verb == pathops.PathVerb.CLOSE:
            continue
        end = points[-1]
        if verb == pathops.PathVerb.MOVE:
            start = end
        elif verb == pathops.PathVerb.LINE:
            curves.append((at, at, end, end))
        elif verb == pathops.PathVerb.QUAD:
            curves.append((at, _toward(at, points[0]), _toward(end, points[0]), end))
        else:
            curves.append((at, *points))
        at = end
    if at != start:
        curves.append((at, at, start, start))
    rows = []
    for before, after in zip([curves[-1], *curves[:-1]], curves, strict=True):
        (x, y), (bx, by), (ax, ay) = after[0], before[2], after[1]
        rows.append((x, y, bx - x, by - y, ax - x, ay - y))
    return np.array(rows)


def _toward(end: _Point, middle: _Point) -> _Point:
    """The cubic's point for a quadratic's middle one, as seen from one end."""
    return end[0] + 2 * (middle[0] - end[0]) / 3, end[1] + 2 * (middle[1] - end[1]) / 3
