"""SVG files: drawn by librsvg through libvips at the size that is asked for [librsvg] [SVG2].

The library gets the checked file as bytes, with no address of its own to look for other files from, and the
fonts that ship here alone.
"""

from __future__ import annotations

import os
import threading
from pathlib import Path
from typing import Any, TypeAlias

import cv2
import numpy as np
from numpy.typing import NDArray

from ...drawn.fonts import FOLDER as FONTS
from ...errors import FileDamaged, PictureTooLarge
from ...picture import RGB, RGBA, Box, Plane, StoredPicture, new_planes
from ..facts import ChannelFact, Facts
from ..formats import MOST_DRAWN_SIDE, format_of
from .oiio_file import check_there
from .samples import fill_planes
from .svg_tree import Drawing, drawing_of

#: Up to this many pixels it is drawn twice as wide: its own coverage has 15 steps down a pixel.
_FINE_PIXELS = 1 << 21
#: Files with more in them are drawn once at every size.
_FINE_ELEMENTS = 1000
#: A user unit is a pixel: the library counts 72 to the inch, CSS 96.
_DPI, _PIXEL = 96.0, 72 / 96

_Codes: TypeAlias = NDArray[np.uint8]

_loading = threading.Lock()


def size_of(path: Path) -> tuple[int, int]:
    """Width and height that the file says."""
    drawing = _drawing(path)
    return drawing.width, drawing.height


def probe(path: Path) -> Facts:
    """Facts without drawing it."""
    drawing = _drawing(path)
    form = format_of(path)
    return Facts(
        kind="still", name=path.name, format=form.name, width=drawing.width, height=drawing.height,
        pixel_format="rgba", bit_depth=8,
        channels=[ChannelFact(name=n, sample="uint8") for n in RGBA],
        alpha=True, alpha_claim="straight", alpha_claim_by=form.alpha_by,
        encoding=form.encoding, encoding_by="SVG 2, 13.2: colours are sRGB",
        bytes=path.stat().st_size, notes=drawing.notes,
    )  # fmt: skip


def draw(path: Path, level: int) -> StoredPicture:
    """Code values, straight: R, G, B, A, 2^-``level`` times as wide as the file says; ``level``: at most 0.

    Raises as `probe`; `PictureTooLarge` beyond what the library draws; `FileDamaged` where it cannot draw it.
    """
    drawing = _drawing(path)
    width, height = drawing.width << -level, drawing.height << -level
    if max(width, height) > MOST_DRAWN_SIDE:
        raise PictureTooLarge(
            f"{path.name} would be drawn {width} x {height}; at most {MOST_DRAWN_SIDE:,} pixels a side are.",
            where=path.name,
        )
    fine = width * height <= _FINE_PIXELS and drawing.elements <= _FINE_ELEMENTS
    codes = _drawn(drawing, path.name, -level + fine)
    planes = _halved(codes) if fine else _shares(codes)
    box = Box.sized(width, height)
    return StoredPicture(planes, box, box)


def _drawing(path: Path) -> Drawing:
    check_there(path)
    return drawing_of(path, MOST_DRAWN_SIDE)


def _drawn(drawing: Drawing, name: str, doubled: int) -> _Codes:
    """R, G, B, A of 8 bits, straight, doubled in width and height so many times."""
    vips = _library()
    try:
        image = vips.Image.svgload_buffer(drawing.text, dpi=_DPI, scale=_PIXEL * 2.0**doubled)
        codes: _Codes = image.numpy()
    except vips.Error as error:
        words = " ".join(str(error).split())
        raise FileDamaged(
            f"{name} cannot be drawn: {words}", advice="Export it again.", where=name
        ) from error
    if codes.shape != (drawing.height << doubled, drawing.width << doubled, 4):
        raise FileDamaged(
            f"{name} came out {codes.shape[1]} x {codes.shape[0]}, not as large as asked.",
            advice="Give its root a width, a height and a viewBox.", where=name,
        )  # fmt: skip
    return codes


def _library() -> Any:
    """libvips, loaded when it is first needed: it is large, and few processes draw."""
    with _loading:
        os.environ["FONTCONFIG_FILE"] = str(FONTS / "fonts.conf")
        import pyvips

        pyvips.cache_set_max(0)
        return pyvips


def _shares(codes: _Codes) -> dict[str, Plane]:
    planes = new_planes(RGBA, *codes.shape[:2])
    fill_planes(list(planes.values()), codes, range(4))
    return planes


def _halved(codes: _Codes) -> dict[str, Plane]:
    """Means of 2 x 2 pixels as the library mixes them: encoded, each weighed by its alpha."""
    height, width, _ = codes.shape

    def mean(plane: Plane) -> Plane:
        return cv2.resize(plane, (width // 2, height // 2), interpolation=cv2.INTER_AREA)  # type: ignore[return-value]

    shares = _shares(codes)
    alpha = shares["A"]
    planes = {"A": mean(alpha)}
    safe = np.where(planes["A"] > 0, planes["A"], np.float32(1))
    for n in RGB:
        planes[n] = np.divide(mean(shares[n] * alpha), safe, dtype=np.float32)
    return planes
