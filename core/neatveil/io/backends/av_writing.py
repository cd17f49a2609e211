"""Writing movies through PyAV / FFmpeg [PyAV]. Rates are kept as fractions."""

from __future__ import annotations

import errno
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager, suppress
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import av
import numpy as np

from ...codecs import Codec
from ...errors import DiskFull, WriteFailed
from ...numeric.threads import workers
from ...picture import Plane, StoredPicture
from ..whole import whole_file
from . import h273, palettes, webp_moving, yuv
from .samples import clamped, to_codes


class MovieWriter:
    """Writes one movie with alpha, frame by frame.

    ``codec`` is an FFmpeg encoder. Its samples are made by arithmetic of our own, each rounded once:
    FFmpeg's converter is up to six codes of 10 bits off.
    """

    def __init__(
        self, path: Path, width: int, height: int, rate: Fraction, *,
        codec: str, pixel_format: str, options: dict[str, str], encoding: str, container: str,
        timecode: str = "", muxing: dict[str, str] | None = None,
    ) -> None:  # fmt: skip
        self.path = path
        try:
            self._container = av.open(str(path), "w", format=container, options=muxing or {})
            if timecode:  # the container makes a track of it
                self._container.metadata["timecode"] = timecode
            # said, so that the container says it too: whole frames, no fields
            said = {"field_order": "progressive", **options}
            self._stream = cast(Any, self._container.add_stream(codec, rate=rate, options=said))
        except (av.error.FFmpegError, OSError, ValueError) as error:
            raise _movie_write_error(path, error) from error
        self._stream.width, self._stream.height = width, height
        self._stream.pix_fmt = pixel_format
        context = self._stream.codec_context
        context.thread_type, context.thread_count = "AUTO", workers()
        context.colorspace, context.color_range = 1, 1
        self._colour = h273.codes_of(encoding)
        context.color_trc, context.color_primaries = self._colour
        self._rgb = bool(av.VideoFormat(pixel_format).is_rgb)
        if self._rgb:
            context.colorspace, context.color_range = 0, 2
        self._bits = av.VideoFormat(pixel_format).components[0].bits
        self._format = pixel_format
        self._count = 0
        self._rate = rate

    def write(self, picture: StoredPicture) -> None:
        """Append one frame of code values; clipped to 0..1 where the samples are integers."""
        frame = self._frame(picture)
        frame.pts = self._count
        frame.time_base = 1 / self._rate
        frame.colorspace = 0 if self._rgb else 1
        frame.color_range = 2 if self._rgb else 1
        # some encoders, ProRes's among them, write what the frames say rather than the stream
        frame.color_trc, frame.color_primaries = self._colour
        self._count += 1
        self._mux(frame)

    def _frame(self, picture: StoredPicture) -> Any:
        if self._format == "pal8":
            return self._with_palette(picture)
        return self._planar(picture) if self._format.startswith(("gbr", "yuv")) else self._packed(picture)

    def _with_palette(self, picture: StoredPicture) -> Any:
        names = [n for n in "RGBA" if n in picture.planes]
        places, palette = palettes.with_palette(to_codes([picture[n] for n in names], np.uint8))
        height, width = places.shape
        frame = av.VideoFrame(width, height, "pal8")
        rows, colours = frame.planes
        np.frombuffer(cast(Any, rows), np.uint8).reshape(height, -1)[:, :width] = places
        np.frombuffer(cast(Any, colours), np.uint32)[:] = palette
        return frame

    def _planar(self, picture: StoredPicture) -> Any:
        height, width = picture["R"].shape
        frame = av.VideoFrame(width, height, self._format)
        kind = np.dtype(np.uint8 if self._bits <= 8 else "<u2")
        targets: list[Any] = [
            np.frombuffer(cast(Any, p), kind).reshape(p.height, -1)[:, : p.width] for p in frame.planes
        ]
        r, g, b = (clamped(picture[n]) for n in ("R", "G", "B"))
        if self._rgb:
            for target, plane in zip(targets, (g, b, r), strict=False):
                target[:] = self._codes(plane)
        else:
            yuv.from_rgb(r, g, b, self._bits, "bt709", False, *targets[:3])
        for target in targets[3:]:
            alpha = picture.planes.get("A")
            target[:] = (1 << self._bits) - 1 if alpha is None else self._codes(clamped(alpha))
        return frame

    def _codes(self, plane: Plane) -> Plane:
        return np.rint(plane * np.float32((1 << self._bits) - 1))

    def _packed(self, picture: StoredPicture) -> Any:
        order = "ARGB" if self._format == "argb" else "RGBA"
        planes = dict(picture.planes)
        if "A" not in planes:
            planes["A"] = np.ones(planes["R"].shape, np.float32)
        block: Any = to_codes([planes[n] for n in order], np.uint16 if self._bits > 8 else np.uint8)
        return av.VideoFrame.from_ndarray(block, format=self._format)

    def _mux(self, frame: Any) -> None:
        try:
            for packet in self._stream.encode(frame):
                self._container.mux(packet)
        except (av.error.FFmpegError, OSError) as error:
            raise _movie_write_error(self.path, error) from error

    def close(self) -> None:
        """Write what is pending and the index; the file is whole after this."""
        try:
            self._mux(None)
            self._container.close()
        except (av.error.FFmpegError, OSError) as error:
            raise _movie_write_error(self.path, error) from error


@contextmanager
def movie_file(
    path: Path, rate: Fraction, *, codec: Codec, encoding: str, timecode: str = ""
) -> Iterator[Callable[[StoredPicture], None]]:
    """Takes a movie's pictures, of the first one's size; whole under its name when all is done, or not there
    at all. ``timecode``: of the first frame; empty for none."""
    with whole_file(path) as part:
        writer: MovieWriter | webp_moving.WebpMovieWriter | None = None

        def put(picture: StoredPicture) -> None:
            nonlocal writer
            if writer is None:
                height, width = picture["R"].shape
                codec.refuse_size(width, height, path.name)
                writer = webp_moving.writer_for(part, width, height, rate, codec) or MovieWriter(
                    part, width, height, rate, codec=codec.encoder, pixel_format=codec.pixel_format,
                    options=codec.options, encoding=encoding, container=codec.container,
                    timecode=timecode, muxing=codec.muxing,
                )  # fmt: skip
            writer.write(picture)

        try:
            yield put
        except BaseException:
            if writer is not None:
                with suppress(WriteFailed):
                    writer.close()
            raise
        if writer is not None:
            writer.close()


def write_pictures(
    path: Path, pictures: Iterable[tuple[int, StoredPicture]], rate: Fraction, *, codec: Codec, encoding: str,
    progress: Callable[[int], None] | None = None,
) -> None:  # fmt: skip
    """As `movie_file`, of pictures with their numbers; ``progress`` is called with each once it is taken."""
    with movie_file(path, rate, codec=codec, encoding=encoding) as put:
        for frame, picture in pictures:
            put(picture)
            if progress is not None:
                progress(frame)


def _movie_write_error(path: Path, error: Exception) -> WriteFailed:
    if getattr(error, "errno", None) in {errno.ENOSPC, errno.EFBIG, errno.EDQUOT}:
        return DiskFull(
            f"The disk is full: {path.name} could not be written.",
            advice="Free some space and retry.",
            where=path.name,
        )
    return WriteFailed(f"{path.name} could not be written: {error}", where=path.name)
