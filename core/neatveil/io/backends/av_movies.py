"""Movies through PyAV / FFmpeg [PyAV]: probing, and reading any frame.

Rates are kept as fractions. The number of frames is counted from the packets, since headers may
lie. VP9 is decoded with libvpx, because FFmpeg's own decoder drops its alpha without a word.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import av
import numpy as np

from ...errors import FileDamaged, FileEmpty, FileMissing, FrameMissing, PictureTooLarge
from ...numeric.threads import workers
from ...picture import Box, Plane, StoredPicture
from ..facts import ChannelFact, Facts
from ..formats import format_of
from ..rates import rate_of_times
from . import apng, h273, movie_notes, yuv
from .claims import alpha_claim
from .oiio_file import MAX_SAMPLES

_DAMAGE = (av.error.FFmpegError, EOFError, UnicodeDecodeError, MemoryError, ValueError, IndexError)
_MATRIX = {1: "bt709", 5: "bt601", 6: "bt601", 9: "bt2020"}


class MovieReader:
    """One open movie; frames by number from 0. Reading onward is fast, jumping back seeks."""

    def __init__(self, path: Path) -> None:
        if not path.is_file():
            raise FileMissing(f"{path.name} is not there.", where=path.name)
        if path.stat().st_size == 0:
            raise FileEmpty(f"{path.name} is empty (0 bytes).", advice="Copy it again.", where=path.name)
        self.path = path
        try:
            self._container = av.open(str(path))
            self._stream = cast(Any, next(s for s in self._container.streams if s.type == "video"))
            self._pts = sorted(
                {p.pts for p in self._container.demux(self._stream) if p.pts is not None and p.size}
            )
        except (*_DAMAGE, StopIteration) as error:
            raise self._damaged(error) from error
        context = self._stream.codec_context
        context.thread_type, context.thread_count = "AUTO", workers()
        if not 0 < context.width * context.height * 4 <= MAX_SAMPLES:
            raise PictureTooLarge(
                f"{path.name} says its frames are {context.width} x {context.height}.",
                advice="The file is probably damaged; check where it came from.",
                where=path.name,
            )
        if not self._pts:
            raise self._damaged("it holds no frames")
        self._decoder = self._own_decoder()
        self._frames: Iterator[Any] | None = None
        self._next = 0

    def _damaged(self, reason: object) -> FileDamaged:
        words = str(reason).strip() or type(reason).__name__
        return FileDamaged(
            f"{self.path.name} cannot be read as a movie: {words}",
            advice="Copy or export it again.",
            where=self.path.name,
        )

    def _own_decoder(self) -> Any:
        """A libvpx decoder for VP8/VP9 with alpha, or None for the stream's own."""
        name = self._stream.codec_context.name
        has_alpha = (
            str(self._stream.metadata.get("alpha_mode", self._stream.metadata.get("ALPHA_MODE", "0"))) == "1"
        )
        if name in {"vp9", "vp8"} and has_alpha:
            decoder: Any = av.CodecContext.create(f"libvpx-{name}" if name == "vp9" else "libvpx", "r")
            return decoder
        return None

    @property
    def count(self) -> int:
        return len(self._pts)

    @property
    def rate(self) -> Fraction | None:
        """Exact frame rate, or None where the file gives none that is usable."""
        if self._container.format.name == "apng" and self.count <= 2:
            return apng.rate_of(self.path)
        if self._container.format.name == "gif":
            ends = int(self._stream.duration or 0)
            return rate_of_times([*self._pts, ends], Fraction(self._stream.time_base))
        for rate in (self._stream.average_rate, self._stream.guessed_rate):
            if rate and 0 < rate < 1000:
                return Fraction(rate.numerator, rate.denominator)
        return None

    @property
    def pixel_format(self) -> str:
        if self._decoder is not None:
            return "yuva420p"
        return str(self._stream.codec_context.format.name if self._stream.codec_context.format else "")

    def facts(self) -> Facts:
        context = self._stream.codec_context
        file_format = format_of(self.path)
        pixel_format = av.VideoFormat(self.pixel_format or "yuv420p")
        alpha = any(c.is_alpha for c in pixel_format.components)
        bits = max(c.bits for c in pixel_format.components)
        encoding, said = h273.encoding_of(
            int(context.color_trc or 2), int(context.color_primaries or 2), file_format.encoding
        )
        names = ["R", "G", "B", *(["A"] if alpha else [])]
        claim, claim_by = alpha_claim(self.path, file_format)
        notes = []
        if self.rate is None:
            notes.append("The file gives no frame rate; set one before it is used.")
        if self._stream.frames and self._stream.frames != self.count:
            notes.append(f"The header says {self._stream.frames} frames; {self.count} are there.")
        notes += movie_notes.notes_of(self._stream, self._pts)
        return Facts(
            kind="movie",
            name=self.path.name,
            format=file_format.name,
            width=context.width,
            height=context.height,
            first=0,
            last=self.count - 1,
            count=self.count,
            rate=str(self.rate) if self.rate else None,
            codec=context.codec.canonical_name,
            pixel_format=pixel_format.name,
            bit_depth=bits,
            channels=[ChannelFact(name=n, sample=f"uint{bits}") for n in names],
            alpha=alpha,
            alpha_use="unknown" if alpha else "none",
            alpha_claim=claim if alpha else None,
            alpha_claim_by=claim_by if alpha else "",
            encoding=encoding,
            encoding_by="the file" if said else f"usual for {file_format.name}",
            bytes=self.path.stat().st_size,
            notes=notes,
        )

    def read(self, index: int) -> StoredPicture:
        """Frame ``index`` (0..count-1) as R', G', B' and A in 0..1."""
        if not 0 <= index < self.count:
            raise FrameMissing(
                f"{self.path.name} has frames 0 to {self.count - 1}, not {index}.", where=self.path.name
            )
        try:
            frame = self._frame(index)
            planes = _planes(frame, one_bit_alpha=self._container.format.name == "gif")
        except StopIteration as error:
            raise self._damaged(f"frame {index} does not decode") from error
        except _DAMAGE as error:
            raise self._damaged(error) from error
        return StoredPicture(planes, Box.sized(frame.width, frame.height))

    def _frame(self, index: int) -> Any:
        if self._frames is None or index < self._next or index > self._next + 12:
            self._container.seek(self._pts[index], stream=self._stream, backward=True)
            self._frames = self._decode()
        assert self._frames is not None
        while True:
            frame = next(self._frames)
            if frame.pts is None or frame.pts >= self._pts[index]:
                self._next = index + 1
                return frame

    def _decode(self) -> Iterator[Any]:
        if self._decoder is None:
            yield from self._container.decode(self._stream)
            return
        for packet in self._container.demux(self._stream):
            yield from self._decoder.decode(packet)

    def close(self) -> None:
        self._container.close()


def _planes(frame: Any, *, one_bit_alpha: bool = False) -> dict[str, Plane]:
    """R, G, B (and A) planes of a frame; planar Y'CbCr without subsampling by exact arithmetic."""
    name = frame.format.name
    alpha = any(c.is_alpha for c in frame.format.components)
    if _PLANAR.match(name):
        bits = frame.format.components[0].bits
        y, cb, cr, *rest = (_codes(frame.planes[i], bits) for i in range(3 + alpha))
        full = int(frame.color_range) == 2 or name.startswith("yuvj")
        r, g, b = yuv.to_rgb(y, cb, cr, bits, _matrix(frame), full, centred=name.startswith("yuvj"))
        planes = {"R": r, "G": g, "B": b}
        if rest:
            planes["A"] = rest[0].astype(np.float32) * np.float32(1 / ((1 << bits) - 1))
        return planes
    block = _packed(frame, alpha)
    top = np.float32(1 / np.iinfo(block.dtype).max)
    if one_bit_alpha:  # what is nothing has no colour: FFmpeg has white there
        block = block * (block[..., 3:] > 0)
    return {n: block[..., i].astype(np.float32) * top for i, n in enumerate("RGBA"[: block.shape[2]])}


#: Planar Y'CbCr of whatever subsampling and depth, little-endian: turned to RGB by arithmetic of our own,
#: since FFmpeg's converter cuts 8-bit results off, by up to three codes.
_PLANAR = re.compile(r"^yuv[aj]?(444|422|420|440)p(9|10|12|14|16)?(le)?$")


def _matrix(frame: Any) -> str:
    """The matrix that the frame states, or the usual one for its size."""
    return _MATRIX.get(int(frame.colorspace), "bt709" if frame.height >= 720 else "bt601")


def _codes(plane: Any, bits: int) -> Any:
    kind = np.dtype(np.uint8 if bits <= 8 else "<u2")
    rows = np.frombuffer(plane, kind).reshape(plane.height, plane.line_size // kind.itemsize)
    return rows[:, : plane.width]


def _packed(frame: Any, alpha: bool) -> np.ndarray[Any, Any]:
    wide = max(c.bits for c in frame.format.components) > 8
    target = {
        (False, False): "rgb24",
        (True, False): "rgba",
        (False, True): "rgb48le",
        (True, True): "rgba64le",
    }[alpha, wide]
    if frame.format.name == target:
        return np.asarray(frame.to_ndarray())
    options: dict[str, Any] = {}
    if not frame.format.is_rgb:
        matrix = int(frame.colorspace)
        known = matrix if matrix in _MATRIX else (1 if frame.height >= 720 else 5)
        options = {"src_colorspace": known, "dst_colorspace": known}
    return np.asarray(frame.reformat(format=target, **options).to_ndarray())
