"""Writing stills through OpenImageIO [OpenImageIO]."""

from __future__ import annotations

import shutil
from collections.abc import Mapping, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio

from ...colour import encoding_named
from ...colour.primaries import PRIMARIES
from ...colour.spaces import is_space
from ...errors import DiskFull, WriteFailed
from ...numeric.half import within_half
from ...picture import Plane, StoredPicture
from . import png_writing, webp_writing
from .samples import clamped, to_codes


def _say_colour(spec: Any, encoding: str) -> None:
    """The header's words for the encoding; of other primaries only OpenEXR's chromaticities are there."""
    meaning = encoding_named(encoding)
    if is_space(encoding):
        spec.attribute("oiio:ColorSpace", encoding.partition("/")[2])
        return
    if meaning.primaries == "bt709":
        spec.attribute("oiio:ColorSpace", {"srgb": "sRGB", "linear": "lin_rec709"}.get(encoding, encoding))
        return
    p = PRIMARIES[meaning.primaries]
    xy = [*p.red, *p.green, *p.blue, *p.white]
    spec.attribute("chromaticities", oiio.TypeDesc("float[8]"), xy)


#: What a header holds: a fraction is a rate, two whole numbers a timecode [SMPTE12-1].
HeaderValue = str | int | Fraction | tuple[int, int] | list[float]


def _put(spec: Any, name: str, value: HeaderValue) -> None:
    if isinstance(value, Fraction):
        spec.attribute(name, oiio.TypeDesc("rational"), (value.numerator, value.denominator))
    elif isinstance(value, tuple):
        spec.attribute(name, oiio.TypeDesc("timecode"), value)
    elif isinstance(value, list):
        spec.attribute(name, oiio.TypeDesc(f"float[{len(value)}]"), value)
    else:
        spec.attribute(name, value)


def write(
    path: Path,
    picture: StoredPicture,
    *,
    sample: str,
    alpha_straight: bool,
    encoding: str,
    compression: str = "",
    samples: Mapping[str, str] | None = None,
    attributes: Mapping[str, HeaderValue] | None = None,
    dither: int | None = None,
    tiles: bool = False,
    parts: bool = False,
) -> None:
    """Write code values as they stand; ``sample`` is uint8, uint16, half or float.

    ``samples`` gives single channels another type, where the format can hold that (OpenEXR);
    ``attributes`` are put into the header: words, whole numbers, rates, timecodes as two packed words, and
    rows of floats. ``dither``: a seed; integers are then rounded up or down
    by lot, by how near they lie, so that no bands appear. Of OpenEXR alone: ``tiles`` of `TILE` pixels in
    place of scan lines, and ``parts``: each layer, by the name before its channels' first dot, in a part of
    its own.

    Integers are rounded to nearest after clipping to 0..1. The file appears whole or not at all
    only to the caller's care: write to a temporary name and rename.

    Raises `DiskFull` or `WriteFailed`.
    """
    names: list[str] = [n for n in ("R", "G", "B", "A", "Y") if n in picture.planes]
    names += sorted(n for n in picture.planes if n not in names)
    attributes = attributes or {}
    by_part = _by_layer(names) if parts else {"": names}
    pieces = [_Piece(picture, own, sample, samples or {}, dither, attributes) for own in by_part.values()]
    if path.suffix.lower() in {".webp", ".png"}:
        corner = picture.data_window.x0, picture.data_window.y0
        try:
            if path.suffix.lower() == ".webp":
                webp_writing.save(path, pieces[0].block)
            else:
                png_writing.save(path, pieces[0].block, encoding, corner)
        except OSError as failure:
            raise _write_error(path, str(failure)) from failure
        return
    for name, piece in zip(by_part, pieces, strict=True):
        _say_colour(piece.spec, encoding)
        # unless it is told so the library divides the colour of these by the alpha
        if alpha_straight or path.suffix.lower() == ".jp2":
            piece.spec.attribute("oiio:UnassociatedAlpha", 1)
        if compression:
            piece.spec.attribute("compression", compression)
        if tiles:
            piece.spec.tile_width = piece.spec.tile_height = TILE
        if parts:
            piece.spec.attribute("oiio:subimagename", name or "picture")
    _put_pieces(path, pieces)


#: Pixels of a tile's side.
TILE = 64


def _by_layer(names: Sequence[str]) -> dict[str, list[str]]:
    """Channels by the name before their first dot; the picture's own, which have none, come first."""
    found: dict[str, list[str]] = {}
    for name in names:
        layer, dot, _ = name.partition(".")
        found.setdefault(layer if dot else "", []).append(name)
    return found


class _Piece:
    """Channels that are written together: what is said of them, and their samples ``(H, W, C)``."""

    def __init__(
        self, picture: StoredPicture, names: list[str], sample: str, samples: Mapping[str, str],
        dither: int | None, attributes: Mapping[str, HeaderValue],
    ) -> None:  # fmt: skip
        height, width = picture.planes[names[0]].shape
        types = [samples.get(n, sample) for n in names]
        mixed = len(set(types)) > 1
        # the library takes no notice of types by channel where they are all alike
        sample = "float" if mixed else types[0]
        self.spec = spec = oiio.ImageSpec(width, height, len(names), sample)
        spec.channelnames = tuple(names)
        spec.x, spec.y = picture.data_window.x0, picture.data_window.y0
        spec.full_x, spec.full_y = picture.display_window.x0, picture.display_window.y0
        spec.full_width = picture.display_window.width
        spec.full_height = picture.display_window.height
        for name, value in attributes.items():
            _put(spec, name, value)
        if mixed:
            spec.channelformats = tuple(oiio.TypeDesc(t) for t in types)
        stated = attributes.get("oiio:BitsPerSample", 16)
        bits = stated if isinstance(stated, int) else 16
        planes = [picture.planes[n] for n in names]
        few = sample == "uint16" and bits < 16
        self.block = _of_bits(planes, bits) if few else block_of(planes, sample, dither)


def _put_pieces(path: Path, pieces: Sequence[_Piece]) -> None:
    target = oiio.ImageOutput.create(str(path))
    if target is None:
        raise WriteFailed(f"{path.name} cannot be written: {oiio.geterror().strip()}", where=path.name)
    specs = tuple(p.spec for p in pieces)
    ok = target.open(str(path), specs[0] if len(specs) == 1 else specs)
    for i, piece in enumerate(pieces):
        ok = ok and (i == 0 or target.open(str(path), piece.spec, "AppendSubimage"))
        ok = ok and target.write_image(piece.block)
    error = target.geterror().strip()
    closed = target.close()
    if not (ok and closed):
        raise _write_error(path, error or target.geterror().strip())
    if not path.is_file() or path.stat().st_size == 0:
        raise _write_error(path, "the file is empty")


def _write_error(path: Path, reason: str) -> WriteFailed:
    try:
        free = shutil.disk_usage(path.parent).free
    except OSError:
        free = 1 << 40
    if "space" in reason.lower() or free < 1 << 20:
        return DiskFull(
            f"The disk is full: {path.name} could not be written.",
            advice="Free some space and retry; frames already written are kept.",
            where=path.name,
        )
    return WriteFailed(
        f"{path.name} could not be written: {reason or 'unknown reason'}",
        advice="Check the folder's rights and space, then retry.",
        where=path.name,
    )


def _of_bits(planes: Sequence[Plane], bits: int) -> np.ndarray[Any, Any]:
    """Codes of fewer bits, rounded to nearest, in the upper bits of 16: the library cuts the others off."""
    codes = np.rint(np.stack([clamped(p) for p in planes], axis=-1) * np.float32((1 << bits) - 1))
    return (codes.astype(np.uint16) << (16 - bits)).astype(np.uint16)


def block_of(planes: Sequence[Plane], sample: str, dither: int | None) -> np.ndarray[Any, Any]:
    """``(H, W, C)`` in the file's sample type: rounded to nearest, or by lot; or float as it stands."""
    if sample == "half":
        planes = [within_half(p) for p in planes]
    if sample in {"half", "float"}:
        return np.stack(planes, axis=-1).astype(np.float16 if sample == "half" else np.float32, copy=False)
    kind = np.uint8 if sample == "uint8" else np.uint16
    if dither is None:
        return to_codes(planes, kind)
    scaled = np.stack([clamped(p) for p in planes], axis=-1) * np.float32(np.iinfo(kind).max)
    lot = np.random.default_rng(dither).random(scaled.shape, np.float32)
    # whole codes stay what they are: arithmetic may leave them a hair below
    return np.floor(scaled + np.float32(1e-4) + lot * np.float32(1 - 2e-4)).astype(kind)
