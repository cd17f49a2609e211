"""Stills of whatever format: what reads which."""

from __future__ import annotations

from pathlib import Path

from ...picture import StoredPicture
from ..facts import Facts
from ..formats import is_drawing
from . import oiio_stills, svg


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of the frame, without its pixels."""
    return svg.size_of(path) if is_drawing(path) else oiio_stills.size_of(path)


def probe(path: Path) -> Facts:
    """Facts without the pixels."""
    return svg.probe(path) if is_drawing(path) else oiio_stills.probe(path)


def read(path: Path, planes: list[str] | None = None) -> StoredPicture:
    """Code values; of a drawing all planes, whatever is asked."""
    return svg.draw(path, 0) if is_drawing(path) else oiio_stills.read(path, planes)


def read_halved(path: Path) -> StoredPicture | None:
    """As `neatveil.io.decoder.Decoder.read_halved`."""
    return None if is_drawing(path) else oiio_stills.read_halved(path)
