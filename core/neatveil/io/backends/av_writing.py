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
from ...picture import RGBA, StoredPicture
from ..whole import whole_file
from . import h273, yuv
from .samples import clamped, to_codes


class MovieWriter:
    """Writes one movie with alpha, frame by frame.

    ``codec`` is an FFmpeg encoder. Planar RGB and planar Y'CbCr 4:4:4 are filled by arithmetic of our own;
    for other pixel formats 16-bit RGB is handed to FFmpeg's converter.
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
            self._stream = cast(Any, self._container.add_stream(codec, rate=rate, options=options))
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
        own = self._format.startswith(("gbr", "yuv444p", "yuva444p"))
        frame = self._planar(picture) if own else self._converted(picture)
        frame.pts = self._count
        frame.time_base = 1 / self._rate
        frame.colorspace = 0 if self._rgb else 1
        frame.color_range = 2 if self._rgb else 1
        # some encoders, ProRes's among them, write what the frames say rather than the stream
        frame.color_trc, frame.color_primaries = self._colour
        self._count += 1
        self._mux(frame)

    def _planar(self, picture: StoredPicture) -> Any:
        height, width = picture["R"].shape
        frame = av.VideoFrame(width, height, self._format)
        wanted = [picture[n] for n in ("R", "G", "B")]
        if len(frame.planes) > 3:
            alpha = picture.planes.get("A")
            wanted.append(np.ones((height, width), np.float32) if alpha is None else alpha)
        r, g, b, *rest = (clamped(p) for p in wanted)
        top = np.float32((1 << self._bits) - 1)
        if self._format.startswith("gbr"):
            planes = [np.rint(p * top) for p in (g, b, r)]
        else:
            planes = [*yuv.from_rgb(r, g, b, self._bits, "bt709", False)]
        planes += [np.rint(a * top) for a in rest]
        for target, values in zip(frame.planes, planes, strict=True):
            kind = np.dtype(np.uint8 if self._bits <= 8 else "<u2")
            rows = np.zeros((height, target.line_size // kind.itemsize), kind)
            rows[:, :width] = values
            target.update(rows.tobytes())
        return frame

    def _converted(self, picture: StoredPicture) -> Any:
        names = [n for n in RGBA if n in picture.planes]
        wide = self._bits > 8
        block: Any = to_codes([picture[n] for n in names], np.uint16 if wide else np.uint8)
        given = {(False, 3): "rgb24", (False, 4): "rgba", (True, 3): "rgb48le", (True, 4): "rgba64le"}
        frame = av.VideoFrame.from_ndarray(block, format=given[wide, len(names)])
        if frame.format.name == self._format:
            return frame
        options = {} if self._rgb else {"dst_colorspace": 1}
        return frame.reformat(format=self._format, **options)

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
        writer: MovieWriter | None = None

        def put(picture: StoredPicture) -> None:
            nonlocal writer
            if writer is None:
                height, width = picture["R"].shape
                codec.refuse_size(width, height, path.name)
                writer = MovieWriter(
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
