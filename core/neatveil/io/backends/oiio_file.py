"""A still opened through OpenImageIO [OpenImageIO]: its parts, its channels by name, its windows.

OpenImageIO would premultiply straight files on reading, in the file's own bit depth; it is always
told not to (``oiio:UnassociatedAlpha``), so that what is read is what is stored.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import OpenImageIO as oiio

from ...errors import FileDamaged, FileEmpty, FileMissing, PictureTooLarge
from ...picture import RGBA, Box
from ..formats import Format, format_of
from . import exr_chroma

#: Largest number of samples in one part of a picture: 32k x 32k RGBA would not fit any machine here.
MAX_SAMPLES = 16384 * 16384 * 4

# The library itself refuses size fields that ask for more, before it allocates anything.
oiio.attribute("limits:imagesize_MB", MAX_SAMPLES * 4 >> 20)
oiio.attribute("limits:channels", 1024)


class Subsampled(FileDamaged):
    """Not damaged at all: this library refuses subsampled channels, and `exr_chroma` reads them."""


@dataclass(frozen=True, slots=True)
class Channel:
    """One channel of a file: in which of its parts, at which place there, of which sample type."""

    name: str
    part: int
    index: int
    sample: str


class Still:
    """An open file with its channels by name over all parts. Close it after use."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self.format = format_of(path)
        self.source = open_file(path, self.format)
        self.specs = [self.source.spec()]
        if self.format.name == "OpenEXR":
            while self.source.seek_subimage(len(self.specs), 0):
                self.specs.append(self.source.spec())
            self._back()
        try:
            for spec in self.specs:
                check_size(path, spec)
        except PictureTooLarge:
            self.close()
            raise
        self.channels = _channels(self.specs)

    def _back(self) -> None:
        self.source.seek_subimage(0, 0)
        error_words(self.source)  # that there was no further part is no error

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


def check_there(path: Path) -> None:
    """`FileMissing` or `FileEmpty` where a file is not there or has nothing in it."""
    if not path.is_file():
        raise FileMissing(f"{path.name} is not there.", where=path.name)
    if path.stat().st_size == 0:
        raise FileEmpty(
            f"{path.name} is empty (0 bytes).",
            advice="Copy or render it again.",
            where=path.name,
        )


def open_file(path: Path, expected: Format) -> Any:
    check_there(path)
    config = oiio.ImageSpec()
    config.attribute("oiio:UnassociatedAlpha", 1)
    source = oiio.ImageInput.open(str(path), config)
    if source is None:
        refused = Subsampled if exr_chroma.is_chroma(path) else FileDamaged
        raise refused(
            f"{path.name} cannot be read as {expected.name}: {error_words(oiio) or 'unknown content'}",
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


def error_words(source: Any) -> str:
    """The last line of what the library says went wrong; damaged files get into its words."""
    try:
        lines = str(source.geterror()).strip().splitlines()
    except UnicodeDecodeError:
        return "its header makes no sense"
    # it quotes the file's whole path, which is nobody's business
    return lines[-1].rpartition("): ")[2] if lines else ""


def check_size(path: Path, spec: Any) -> None:
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


def _channels(specs: list[Any]) -> list[Channel]:
    """Channels of all parts; in later parts under the part's name, unless theirs says it already."""
    found: dict[str, Channel] = {}
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
            found[name] = Channel(name, part, index, sample)
    return list(found.values())


def windows(spec: Any) -> tuple[Box, Box]:
    display = Box.sized(spec.full_width, spec.full_height)
    data = Box(0, 0, spec.width, spec.height).shift(spec.x - spec.full_x, spec.y - spec.full_y)
    return data, display


def asked_type(spec: Any) -> Any:
    """The file's own sample type where it is a usual one: the library converts to float slowly."""
    usual = spec.format.basetype in {oiio.UINT8, oiio.UINT16, oiio.HALF}
    return spec.format.basetype if usual and not spec.channelformats else oiio.FLOAT
