"""Stills through OpenImageIO [OpenImageIO]: what a file is, and its code values.

OpenImageIO would premultiply straight files on reading, in the file's own bit depth; it is always
told not to (``oiio:UnassociatedAlpha``), so that what is read is what is stored.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio

from ...errors import FileDamaged, FileEmpty, FileMissing, NameUnknown, PictureTooLarge
from ...picture import RGBA, Box, Plane, StoredPicture, new_planes
from ..facts import ChannelFact, Facts
from ..formats import Format, format_of
from . import exr_chroma, orientation
from .claims import alpha_claim, colour_encoding
from .names import is_data_channel
from .samples import fill_planes, without_denormals

#: Largest number of samples in one part of a picture: 32k x 32k RGBA would not fit any machine here.
MAX_SAMPLES = 16384 * 16384 * 4

# The library itself refuses size fields that ask for more, before it allocates anything.
oiio.attribute("limits:imagesize_MB", MAX_SAMPLES * 4 >> 20)
oiio.attribute("limits:channels", 1024)

_SAMPLES = {"uint8": 8, "uint16": 16, "half": 16, "float": 32, "uint32": 32, "double": 64}


@dataclass(frozen=True, slots=True)
class _Channel:
    """One channel of a file: in which of its parts, at which place there, of which sample type."""

    name: str
    part: int
    index: int
    sample: str


class _Still:
    """An open file with its channels by name over all parts. Close it after use."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self.format = format_of(path)
        self.source = _open(path, self.format)
        self.specs = [self.source.spec()]
        if self.format.name == "OpenEXR":
            while self.source.seek_subimage(len(self.specs), 0):
                self.specs.append(self.source.spec())
            self._back()
        try:
            for spec in self.specs:
                _check_size(path, spec)
        except PictureTooLarge:
            self.close()
            raise
        self.channels = _channels(self.specs)

    def _back(self) -> None:
        self.source.seek_subimage(0, 0)
        told(self.source)  # that there was no further part is no error

    def pages(self) -> int:
        """How many pictures the file holds, for formats that have pages; reading a frame need not know."""
        count = 1
        while self.source.seek_subimage(count, 0):
            count += 1
        self._back()
        return count

    @property
    def main(self) -> Any:
        return self.specs[0]

    def close(self) -> None:
        self.source.close()


def _open(path: Path, expected: Format) -> Any:
    if not path.is_file():
        raise FileMissing(f"{path.name} is not there.", where=path.name)
    if path.stat().st_size == 0:
        raise FileEmpty(
            f"{path.name} is empty (0 bytes).",
            advice="Copy or render it again.",
            where=path.name,
        )
    config = oiio.ImageSpec()
    config.attribute("oiio:UnassociatedAlpha", 1)
    source = oiio.ImageInput.open(str(path), config)
    if source is None:
        raise FileDamaged(
            f"{path.name} cannot be read as {expected.name}: {told(oiio) or 'unknown content'}",
            advice="Copy or render it again, or correct the file's ending.",
            where=path.name,
        )
    if source.spec().deep:
        source.close()
        raise FileDamaged(
            f"{path.name} holds deep samples, several to a pixel; those are not read.",
            advice="Flatten it where it was rendered.",
            where=path.name,
        )
    return source


def told(source: Any) -> str:
    """The last line of what the library says went wrong; damaged files get into its words."""
    try:
        lines = str(source.geterror()).strip().splitlines()
    except UnicodeDecodeError:
        return "its header makes no sense"
    # it quotes the file's whole path, which is nobody's business
    return lines[-1].rpartition("): ")[2] if lines else ""


def _check_size(path: Path, spec: Any) -> None:
    if not 0 < spec.width * spec.height * spec.nchannels <= MAX_SAMPLES:
        raise PictureTooLarge(
            f"{path.name} says it is {spec.width} x {spec.height} with {spec.nchannels} channels; "
            f"at most {MAX_SAMPLES // 4:,} pixels are read.",
            advice="The file is probably damaged; check where it came from.",
            where=path.name,
        )


def channel_names(spec: Any) -> list[str]:
    """Standard names for the file's channels: a lone grey is Y, its alpha A."""
    names = [str(n) for n in spec.channelnames]
    # where names are the file's own (OpenEXR), a second channel is an alpha only if it says so
    if names[0] in {"R", "Y", "I", "L", "channel0"} and names[1:] in ([], ["A"], ["G"], ["channel1"]):
        return ["Y", "A"][: len(names)]
    return names


def _channels(specs: list[Any]) -> list[_Channel]:
    """Channels of all parts; in later parts under the part's name, unless theirs says it already."""
    found: dict[str, _Channel] = {}
    for part, spec in enumerate(specs):
        samples = [str(f) for f in spec.channelformats] or [str(spec.format)] * spec.nchannels
        part_name = str(spec.get_string_attribute("oiio:subimagename")) or f"part{part}"
        for index, (plain, sample) in enumerate(zip(channel_names(spec), samples, strict=True)):
            name = plain
            if name in found or (part > 0 and "." not in name and name in {*RGBA, "Y"}):
                name = f"{part_name}.{plain}"
            while name in found:
                name = f"{part_name}{part}.{plain}"
                part_name = f"{part_name}{part}"
            found[name] = _Channel(name, part, index, sample)
    return list(found.values())


def _windows(spec: Any) -> tuple[Box, Box]:
    display = Box.sized(spec.full_width, spec.full_height)
    data = Box(0, 0, spec.width, spec.height).shift(spec.x - spec.full_x, spec.y - spec.full_y)
    return data, display


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of the frame, from the header alone; as fast as the library can."""
    source = _open(path, format_of(path))
    try:
        spec = source.spec()
        _check_size(path, spec)
        turn = orientation.of(spec)
        return orientation.size(spec.full_width, spec.full_height, turn)
    finally:
        source.close()


def probe(path: Path) -> Facts:
    """Facts from the header alone."""
    if exr_chroma.is_chroma(path):
        return exr_chroma.probe(path)
    still = _Still(path)
    try:
        return _facts(still)
    finally:
        still.close()


def _facts(still: _Still) -> Facts:
    path, spec = still.path, still.main
    bits = _bits(spec, still.channels[0].sample)
    turn = orientation.of(spec)
    data, display = (orientation.box(b, Box.sized(spec.full_width, spec.full_height), turn)
                     for b in _windows(spec))  # fmt: skip
    channels = [
        ChannelFact(name=c.name, sample=c.sample, data=is_data_channel(c.name)) for c in still.channels
    ]
    alpha = any(c.name == "A" for c in channels)
    claim, claim_by = alpha_claim(path, still.format, spec)
    encoding, encoding_by, notes = colour_encoding(still.format, spec, still.channels[0].sample)
    if still.format.name != "OpenEXR" and (pages := still.pages()) > 1:
        notes.append(f"The file holds {pages} pictures; the first is read.")
    if turn != 1:
        notes.append("The file says that it was stored turned or mirrored; it is shown upright.")
    thin = [c.name for c in channels if c.data and _SAMPLES.get(c.sample, 8) < 16]
    if thin:
        notes.append(f"{', '.join(thin)} hold data in {bits} bits; 16 or more are needed.")
    return Facts(
        kind="still", name=path.name, format=still.format.name, width=display.width, height=display.height,
        data_window=data.as_list() if data != display else None,
        codec=str(spec.get_string_attribute("compression")), pixel_format=still.channels[0].sample,
        bit_depth=bits, channels=channels, alpha=alpha, alpha_use="unknown" if alpha else "none",
        alpha_claim=claim if alpha else None, alpha_claim_by=claim_by if alpha else "",
        encoding=encoding, encoding_by=encoding_by, bytes=path.stat().st_size, notes=notes,
    )  # fmt: skip


def _bits(spec: Any, sample: str) -> int:
    """Bits of a sample; fewer than 8 only for grey, since a palette's colours have 8."""
    whole = _SAMPLES.get(sample, 8)
    said = int(spec.get_int_attribute("oiio:BitsPerSample", whole))
    return whole if spec.nchannels > 2 and said < 8 else said


def read(path: Path, names: list[str] | None = None) -> StoredPicture:
    """Code values of the chosen channels (default R, G, B, A or Y) over the data window.

    Raises `FileDamaged` where pixels are missing, `NameUnknown` for a channel that is not there,
    `PictureTooLarge`, `FileMissing`, `FileEmpty`.
    """
    if exr_chroma.is_chroma(path):
        return exr_chroma.read(path, names)
    still = _Still(path)
    try:
        turn = orientation.of(still.main)
        picture = _read(still, names)
    finally:
        still.close()
    return picture if turn == 1 else orientation.upright(picture, turn)


def _read(still: _Still, names: list[str] | None) -> StoredPicture:
    by_name = {c.name: c for c in still.channels}
    wanted = names or [n for n in by_name if n in RGBA or n == "Y"] or list(by_name)[:3]
    unknown = [n for n in wanted if n not in by_name]
    if unknown:
        raise NameUnknown(
            f"{still.path.name} has no channel {', '.join(unknown)}.",
            advice=f"It has {', '.join(by_name)}.", where=still.path.name,
        )  # fmt: skip
    return _of_parts(still, [by_name[n] for n in wanted])


def _of_parts(still: _Still, channels: list[_Channel]) -> StoredPicture:
    """Channels of any parts over the smallest window that holds all of their data."""
    parts = sorted({c.part for c in channels})
    data, display = _windows(still.specs[parts[0]])
    _, display = _windows(still.main)
    for part in parts[1:]:
        data = data.around(_windows(still.specs[part])[0])
    planes = new_planes([c.name for c in channels], data.height, data.width)
    for part in parts:
        own = [c for c in channels if c.part == part]
        _read_part(still, part, own, planes, data)
    data_planes = [n for n in planes if is_data_channel(n)]
    return StoredPicture(planes, data, display, data_planes=data_planes)


def _read_part(
    still: _Still, part: int, channels: list[_Channel], planes: dict[str, Plane], area: Box
) -> None:
    spec = still.specs[part]
    begin, end = min(c.index for c in channels), max(c.index for c in channels) + 1
    pixels = still.source.read_image(part, 0, begin, end, _asked_type(spec))
    error = told(still.source)
    if pixels is None or error:
        raise FileDamaged(
            f"{still.path.name} breaks off or is damaged: {error or 'no pixels'}",
            advice="Copy or render it again.",
            where=still.path.name,
        )
    own = _windows(spec)[0]
    block = np.asarray(pixels).reshape(spec.height, spec.width, end - begin)
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


def _asked_type(spec: Any) -> Any:
    """The file's own sample type where it is a usual one: the library converts to float slowly."""
    usual = spec.format.basetype in {oiio.UINT8, oiio.UINT16, oiio.HALF}
    return spec.format.basetype if usual and not spec.channelformats else oiio.FLOAT
