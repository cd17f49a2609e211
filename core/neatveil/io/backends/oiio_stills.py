"""Stills through OpenImageIO [OpenImageIO]: what a file is, and its code values."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio
from numpy.typing import NDArray

from ...errors import FileDamaged, NameUnknown
from ...picture import RGB, RGBA, Box, Plane, StoredPicture, lay_over, new_planes
from ..facts import ChannelFact, Facts
from ..formats import format_of
from . import dpx, exr_chroma, orientation, targa16
from .claims import alpha_claim, colour_encoding
from .damage import damage_notes
from .id_manifest import named_objects
from .movie_notes import not_square
from .names import is_data_channel
from .oiio_file import Channel, Still, Subsampled, asked_type, check_size, error_words, open_file, windows
from .samples import fill_halved, fill_planes, without_denormals

_SAMPLES = {"uint8": 8, "uint16": 16, "half": 16, "float": 32, "uint": 32, "uint32": 32, "double": 64}
#: Whole numbers that name things: they are read as they are, not as shares of the largest.
_IDENTITY = {"uint", "uint32"}


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of the frame, from the header alone; as fast as the library can."""
    if dpx.is_dpx(path):
        return dpx.size_of(path)
    try:
        source = open_file(path, format_of(path))
    except Subsampled:
        return exr_chroma.size_of(path)
    try:
        spec = source.spec()
        check_size(path, spec)
        turn = orientation.of(spec)
        return orientation.size(spec.full_width, spec.full_height, turn)
    finally:
        source.close()


def probe(path: Path) -> Facts:
    """Facts from the header alone."""
    if dpx.is_dpx(path):
        return dpx.probe(path)
    try:
        still = Still(path)
    except Subsampled:
        return exr_chroma.probe(path)
    try:
        return _facts(still)
    finally:
        still.close()


def _facts(still: Still) -> Facts:
    path, spec = still.path, still.main
    bits = _bits(path, spec, still.channels[0].sample)
    turn = orientation.of(spec)
    data, display = (orientation.box(b, Box.sized(spec.full_width, spec.full_height), turn)
                     for b in windows(spec))  # fmt: skip
    channels = [ChannelFact(name=c.name, sample=c.sample, data=_is_data(c)) for c in still.channels]
    if targa16.has_alpha_bit(path):
        channels.append(ChannelFact(name="A", sample="uint1"))
    alpha = any(c.name == "A" for c in channels)
    claim, claim_by = alpha_claim(path, still.format)
    encoding, encoding_by, notes = colour_encoding(still.format, spec, still.channels[0].sample)
    if still.format.name != "OpenEXR" and (pages := still.pages()) > 1:
        notes.append(f"The file holds {pages} pictures; the first is read.")
    if turn != 1:
        notes.append(orientation.SHOWN_UPRIGHT)
    notes += [*_header_notes(spec), *damage_notes(path)]
    thin = [c.name for c in channels if c.data and _SAMPLES.get(c.sample, 8) < 16]
    if thin:
        notes.append(f"{', '.join(thin)} hold data in {bits} bits; 16 or more are needed.")
    return Facts(
        kind="still", name=path.name, format=still.format.name, width=display.width, height=display.height,
        data_window=data.as_list() if data != display else None,
        codec=str(spec.get_string_attribute("compression")), pixel_format=still.channels[0].sample,
        bit_depth=bits, channels=channels, objects=named_objects(still.specs), alpha=alpha,
        alpha_use="unknown" if alpha else "none",
        alpha_claim=claim if alpha else None, alpha_claim_by=claim_by if alpha else "",
        encoding=encoding, encoding_by=encoding_by, bytes=path.stat().st_size, notes=notes,
    )  # fmt: skip


def _is_data(channel: Channel) -> bool:
    return is_data_channel(channel.name) or channel.sample in _IDENTITY


def _header_notes(spec: Any) -> list[str]:
    """Of pixels that are not square."""
    found = []
    aspect = float(spec.get_float_attribute("PixelAspectRatio", 1.0))
    if aspect > 0 and abs(aspect - 1) > 1e-3:
        found.append(not_square(Fraction(aspect).limit_denominator(100)))
    return found


def _bits(path: Path, spec: Any, sample: str) -> int:
    """Bits of a sample; fewer than 8 only for grey, since a palette's colours have 8."""
    whole = _SAMPLES.get(sample, 8)
    if path.suffix.lower() == ".png":
        with path.open("rb") as file:
            head = file.read(26)
        # of the header chunk: bits, and the kind of colour, 0 grey, 4 grey with alpha (PNG, 11.2.2)
        return head[24] if head[25] in {0, 4} else whole
    said = int(spec.get_int_attribute("oiio:BitsPerSample", whole))
    return whole if spec.nchannels > 2 and said < 8 else said


def read(path: Path, names: list[str] | None = None) -> StoredPicture:
    """Code values of the chosen channels (default R, G, B, A or Y) over the data window.

    Raises `FileDamaged` where pixels are missing, `NameUnknown` for a channel that is not there,
    `PictureTooLarge`, `FileMissing`, `FileEmpty`.
    """
    if dpx.is_dpx(path):
        return dpx.read(path, names)
    try:
        still = Still(path)
    except Subsampled:
        return exr_chroma.read(path, names)
    try:
        turn = orientation.of(still.main)
        picture = _read(still, names)
    finally:
        still.close()
    return picture if turn == 1 else orientation.upright(picture, turn)


def _read(still: Still, names: list[str] | None) -> StoredPicture:
    if targa16.has_alpha_bit(still.path) and (names is None or "A" in names):
        rest = None if names is None else [n for n in names if n != "A"]
        colour = _read_channels(still, rest or None)
        planes = {n: p for n, p in colour.planes.items() if rest is None or n in rest}
        return colour.with_planes({**planes, "A": targa16.alpha_of(still.path)})
    return _read_channels(still, names)


def _read_channels(still: Still, names: list[str] | None) -> StoredPicture:
    by_name = {c.name: c for c in still.channels}
    wanted = names or [n for n in by_name if n in RGBA or n == "Y"] or list(by_name)[:3]
    unknown = [n for n in wanted if n not in by_name]
    if unknown:
        raise NameUnknown(
            f"{still.path.name} has no channel {', '.join(unknown)}.",
            advice=f"It has {', '.join(by_name)}.", where=still.path.name,
        )  # fmt: skip
    return _of_parts(still, [by_name[n] for n in wanted])


def _of_parts(still: Still, channels: list[Channel]) -> StoredPicture:
    """Channels of any parts over the smallest window that holds all of their data."""
    parts = sorted({c.part for c in channels})
    data, display = windows(still.specs[parts[0]])
    _, display = windows(still.main)
    for part in parts[1:]:
        data = data.around(windows(still.specs[part])[0])
    planes = new_planes([c.name for c in channels], data.height, data.width)
    for part in parts:
        own = [c for c in channels if c.part == part]
        _read_part(still, part, own, planes, data)
    data_planes = [c.name for c in channels if _is_data(c)]
    return StoredPicture(planes, data, display, data_planes=data_planes)


def read_halved(path: Path) -> StoredPicture | None:
    """Means of 2 x 2 code values of R, G, B (and A), straight from the decoder's samples.

    Half the memory traffic of reading and halving. None, before anything is decoded, where that is not
    the same: samples other than half, several parts, further sizes of window, odd edges.

    Raises as `read`.
    """
    if path.suffix.lower() != ".exr":
        return None
    try:
        still = Still(path)
    except Subsampled:
        return None
    try:
        spec = still.main
        data, display = windows(spec)
        edges = [*data.as_list(), *display.as_list()]
        names = [c.name for c in still.channels if c.name in RGBA]
        plain = (
            len(still.specs) == 1 and asked_type(spec) == oiio.HALF and set(names) >= set(RGB)
            and not any(e % 2 for e in edges) and orientation.of(spec) == 1
        )  # fmt: skip
        if not plain:
            return None
        chosen = [c for c in still.channels if c.name in names]
        begin, block = _block(still, 0, chosen)
        half = data.halved(1)
        planes = new_planes([n for n in RGBA if n in names], half.height, half.width)
        places = {c.name: c.index - begin for c in chosen}
        fill_halved(planes, block, [places[n] for n in planes])
        return StoredPicture(planes, half, display.halved(1))
    finally:
        still.close()


def _block(still: Still, part: int, channels: list[Channel]) -> tuple[int, NDArray[np.generic]]:
    """The samples ``(H, W, C)`` of one part from the first to the last of these channels; which is first."""
    spec = still.specs[part]
    begin, end = min(c.index for c in channels), max(c.index for c in channels) + 1
    pixels = still.source.read_image(part, 0, begin, end, asked_type(spec))
    error = error_words(still.source)
    if pixels is None or error:
        raise FileDamaged(
            f"{still.path.name} breaks off or is damaged: {error or 'no pixels'}",
            advice="Copy or render it again.",
            where=still.path.name,
        )
    return begin, np.asarray(pixels).reshape(spec.height, spec.width, end - begin)


def _read_identity(still: Still, channel: Channel, plane: Plane, area: Box) -> None:
    """Whole numbers as they are; beyond 2^24 to the nearest that a float32 holds."""
    spec = still.specs[channel.part]
    pixels = still.source.read_image(channel.part, 0, channel.index, channel.index + 1, oiio.UINT32)
    if pixels is None:
        raise FileDamaged(
            f"{still.path.name} breaks off or is damaged: {error_words(still.source) or 'no pixels'}",
            advice="Copy or render it again.", where=still.path.name,
        )  # fmt: skip
    values = np.asarray(pixels).reshape(spec.height, spec.width).astype(np.float32)
    lay_over(values, windows(spec)[0], plane, area)


def _read_part(still: Still, part: int, channels: list[Channel], planes: dict[str, Plane], area: Box) -> None:
    for c in [c for c in channels if c.sample in _IDENTITY and still.format.name == "OpenEXR"]:
        _read_identity(still, c, planes[c.name], area)
        channels = [other for other in channels if other is not c]
    if not channels:
        return
    begin, block = _block(still, part, channels)
    own = windows(still.specs[part])[0]
    y, x = own.y0 - area.y0, own.x0 - area.x0
    targets = []
    for c in channels:
        if own != area:
            planes[c.name][:] = 0
        targets.append(planes[c.name][y : y + own.height, x : x + own.width])
    fill_planes(targets, block, [c.index - begin for c in channels])
    for c in channels:
        # integers and half numbers cannot be so small; data stays as it is
        if c.sample in {"float", "double"} and not is_data_channel(c.name):
            without_denormals(planes[c.name])
