"""Moving WebP: lossless frames in a container of our own making, read through Pillow [RFC9649] [Pillow].

FFmpeg cannot read one, and writing one it changes the colour where the alpha is 0. Each frame is a whole
picture, coded by itself as a still and laid into the file as RFC 9649, 2.7.1.1, says: nothing of the frame
before is seen through it.
"""

from __future__ import annotations

import io
import struct
from collections.abc import Iterator
from fractions import Fraction
from itertools import accumulate
from pathlib import Path
from typing import Any, BinaryIO, cast

import numpy as np
from PIL import Image, UnidentifiedImageError

from ...codecs import Codec
from ...errors import FileDamaged, FrameMissing, NeatVeilError
from ...picture import Box, StoredPicture
from ..facts import ChannelFact, Facts
from ..formats import format_of
from ..rates import rate_of_times
from . import webp_writing
from .claims import alpha_claim
from .samples import to_codes

#: Milliseconds, as durations count.
CLOCK = Fraction(1, 1000)
_ANIMATION, _ALPHA = 0x02, 0x10
#: Of an ANMF chunk: what was there is not blended with.
_NO_BLENDING = 0x02
_DAMAGE = (OSError, ValueError, SyntaxError, EOFError, UnidentifiedImageError)


def is_moving(path: Path) -> bool:
    """Whether a WebP file says that it moves: the flag of its VP8X chunk (RFC 9649, 2.7)."""
    try:
        with path.open("rb") as file:
            head = file.read(21)
    except OSError:
        return False
    return (
        head[:4] == b"RIFF" and head[8:16] == b"WEBPVP8X" and len(head) > 20 and bool(head[20] & _ANIMATION)
    )


class WebpMovieWriter:
    """Writes one moving WebP, frame by frame; a frame is all that is in memory."""

    def __init__(self, path: Path, width: int, height: int, rate: Fraction) -> None:
        self._file: BinaryIO = path.open("wb")
        self._rate, self._count, self._alpha = rate, 0, False
        self._size = struct.pack("<I", width - 1)[:3] + struct.pack("<I", height - 1)[:3]
        self._head()

    def write(self, picture: StoredPicture) -> None:
        """Append one frame of code values, clipped to 0..1."""
        names = [n for n in "RGBA" if n in picture.planes]
        self._alpha |= "A" in names
        still = io.BytesIO()
        webp_writing.save(still, to_codes([picture[n] for n in names], np.uint8))
        # behind the head of 12 bytes is one chunk, VP8L: the frame
        lasts = self._time(self._count + 1) - self._time(self._count)
        head = bytes(6) + self._size + struct.pack("<I", lasts)[:3] + bytes([_NO_BLENDING])
        self._file.write(_chunk(b"ANMF", head + still.getvalue()[12:]))
        self._count += 1

    def close(self) -> None:
        """Write what is known now alone, the file's length and whether it has an alpha."""
        with self._file as file:
            length = file.tell()
            file.seek(0)
            self._head(length)

    def _time(self, frame: int) -> int:
        return round(frame / self._rate / CLOCK)

    def _head(self, length: int = 8) -> None:
        flags = _ANIMATION | (_ALPHA if self._alpha else 0)
        self._file.write(b"RIFF" + struct.pack("<I", length - 8) + b"WEBP")
        self._file.write(_chunk(b"VP8X", bytes([flags, 0, 0, 0]) + self._size))
        # a background of nothing, and no end of playing
        self._file.write(_chunk(b"ANIM", bytes(4) + struct.pack("<H", 0)))


def _durations(path: Path) -> Iterator[int]:
    """How long each frame stands, in ticks, by its chunk's head: nothing is decoded for it."""
    with path.open("rb") as file:
        length = path.stat().st_size
        at = 12
        while at < length:
            file.seek(at)
            head = file.read(24)
            kind, held = struct.unpack("<4sI", head[:8].ljust(8, b"\0"))
            at += 8 + held + held % 2
            if at > length:
                raise ValueError("it is cut short")
            if kind == b"ANMF":
                yield int.from_bytes(head[20:23], "little")


def _chunk(kind: bytes, held: bytes) -> bytes:
    return kind + struct.pack("<I", len(held)) + held + bytes(len(held) % 2)


class WebpMovieReader:
    """One open moving WebP; frames by number from 0."""

    def __init__(self, path: Path) -> None:
        self.path = path
        try:
            self._image = cast(Any, Image.open(path))
            self._times = [0, *accumulate(_durations(path))]
            if self._image.n_frames != self.count or not self.count:
                raise ValueError(f"{self._image.n_frames} of {self.count} frames are there")
        except _DAMAGE as error:
            raise self._damaged(error) from error

    def _damaged(self, reason: object) -> NeatVeilError:
        return FileDamaged(
            f"{self.path.name} cannot be read as a movie: {reason}",
            advice="Copy or export it again.",
            where=self.path.name,
        )

    @property
    def count(self) -> int:
        return len(self._times) - 1

    def facts(self) -> Facts:
        file_format = format_of(self.path)
        width, height = self._image.size
        alpha = "A" in self._image.getbands()
        claim, by = alpha_claim(self.path, file_format)
        rate = rate_of_times(self._times, CLOCK)
        return Facts(
            kind="movie", name=self.path.name, format=file_format.name, width=width, height=height,
            first=0, last=self.count - 1, count=self.count, rate=str(rate) if rate else None,
            codec="webp", pixel_format="rgba" if alpha else "rgb24", bit_depth=8,
            channels=[ChannelFact(name=n, sample="uint8") for n in self._image.getbands()],
            alpha=alpha, alpha_use="unknown" if alpha else "none",
            alpha_claim=claim if alpha else None, alpha_claim_by=by if alpha else "",
            encoding=file_format.encoding, encoding_by=f"usual for {file_format.name}",
            bytes=self.path.stat().st_size,
            notes=[] if rate else ["The file gives no frame rate; set one before it is used."],
        )  # fmt: skip

    def read(self, index: int) -> StoredPicture:
        """Frame ``index`` (0..count-1) as R', G', B' and A in 0..1."""
        if not 0 <= index < self.count:
            raise FrameMissing(
                f"{self.path.name} has frames 0 to {self.count - 1}, not {index}.", where=self.path.name
            )
        try:
            self._image.seek(index)
            codes = np.asarray(self._image)
        except _DAMAGE as error:
            raise self._damaged(error) from error
        planes = {
            n: codes[..., i].astype(np.float32) / np.float32(255)
            for i, n in enumerate(self._image.getbands())
        }
        return StoredPicture(planes, Box.sized(*self._image.size))

    def close(self) -> None:
        self._image.close()


def writer_for(part: Path, width: int, height: int, rate: Fraction, codec: Codec) -> WebpMovieWriter | None:
    """A writer where the codec is this one's."""
    return WebpMovieWriter(part, width, height, rate) if codec.container == "webp" else None
