"""All frames of a delivery, in one form or in several at once: each is evaluated once for all of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from contextlib import ExitStack, nullcontext
from fractions import Fraction
from typing import NamedTuple, TypeAlias

from ..io.backends.av_writing import movie_file
from ..numeric.ahead import ahead, unless
from ..numeric.pool import in_this_thread
from ..numeric.threads import workers
from ..picture import StoredPicture
from .formats import DeliveryFormat
from .write import FrameSource, Stamp, Target, meant, write_frame

Progress: TypeAlias = Callable[[int], None]
Asked: TypeAlias = Callable[[], bool]
CANCELLED = "The delivery was cancelled."


class Output(NamedTuple):
    """What is written in one form, and where."""

    format: DeliveryFormat
    target: Target


def write_together(
    source: FrameSource, outputs: Sequence[Output], frames: Iterable[int], rate: Fraction,
    *, stamp: Stamp | None = None, resume: bool = False, progress: Progress | None = None,
    cancelled: Asked | None = None,
) -> None:  # fmt: skip
    """Write the same frames in several forms, each evaluated once.

    Parameters
    ----------
    source : gives the picture of a frame number, scene-linear, premultiplied over black; called on threads.
    outputs : forms and targets. A movie appears under its name only when it is whole.
    frames : those to be written, in order.
    rate : of movies, in frames per second.
    stamp : what headers say besides the picture.
    resume : files of frames that are there already are left. A movie begins anew.
    progress : called with each frame number once it is in all files.
    cancelled : asked between frames; files that are whole stay.

    Raises
    ------
    ValueRefused
        A name does not fit its format.
    Cancelled
        ``cancelled`` said yes.
    DiskFull, WriteFailed
        A file cannot be written; nothing half is left.

    Examples
    --------
    >>> import tempfile
    >>> from pathlib import Path
    >>> from neatveil.delivery import format_named
    >>> from neatveil.picture import PremultipliedPicture
    >>> grey = PremultipliedPicture.from_rgba(np.ones((16, 16, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     stills = Output(format_named("png16-straight"), Target(Path(folder, "grey.####.png")))
    ...     movie = Output(format_named("prores4444-straight"), Target(Path(folder, "grey.mov")))
    ...     write_together(lambda n: grey, [stills, movie], [1, 2], Fraction(25))
    ...     sorted(path.name for path in Path(folder).iterdir())
    ['grey.0001.png', 'grey.0002.png', 'grey.mov']
    """
    for one in outputs:
        one.target.checked(one.format)
    stills = [o for o in outputs if o.format.kind == "frames"]
    movies = [o for o in outputs if o.format.kind == "movie"]

    def made(frame: int) -> tuple[int, list[StoredPicture]]:
        paths = [(o.format, o.target.frame_path(frame)) for o in stills]
        left = [(f, path) for f, path in paths if not (resume and path.exists())]
        if not left and not movies:
            return frame, []
        # frames side by side keep all processors busy; an encoder of movies takes them one by one
        with nullcontext() if movies else in_this_thread():
            picture = source(frame)
            for delivery_format, path in left:
                write_frame(picture, delivery_format, path, frame, stamp)
            return frame, [meant(picture, o.format, frame) for o in movies]

    code = "" if stamp is None or stamp.timecode is None else str(stamp.timecode)
    with ExitStack() as files:
        puts = [
            files.enter_context(
                movie_file(
                    o.target.path, rate, codec=o.format.codec, encoding=o.format.encoding, timecode=code
                )
            )
            for o in movies
        ]
        # what several movies are made of takes memory: fewer frames wait for their encoders then
        threads = 1 if len(movies) > 1 else workers()
        for frame, pictures in ahead(made, unless(cancelled, frames, CANCELLED), threads):
            for put, picture in zip(puts, pictures, strict=True):
                put(picture)
            if progress is not None:
                progress(frame)


def write_frames(
    source: FrameSource, delivery_format: DeliveryFormat, target: Target, frames: Iterable[int],
    *, stamp: Stamp | None = None, progress: Progress | None = None, cancelled: Asked | None = None,
) -> None:  # fmt: skip
    """Write frames in parallel, each evaluated and encoded on a thread of its own.

    Parameters
    ----------
    source : gives the picture of a frame number, scene-linear, premultiplied over black; called on threads.
    delivery_format, target : of the delivery.
    frames : those to be written.
    stamp : what headers say besides the picture.
    progress : called with each frame number when its file is whole.
    cancelled : asked between frames; files that are whole stay.

    Raises
    ------
    Cancelled
        ``cancelled`` said yes.
    DiskFull, WriteFailed
        A file cannot be written; nothing half is left.

    Examples
    --------
    >>> import tempfile
    >>> from pathlib import Path
    >>> from neatveil.delivery import format_named
    >>> from neatveil.picture import PremultipliedPicture
    >>> grey = PremultipliedPicture.from_rgba(np.ones((4, 4, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     target = Target(Path(folder, "grey.####.png"))
    ...     write_frames(lambda n: grey, format_named("png16-straight"), target, [1, 2])
    ...     sorted(path.name for path in Path(folder).iterdir())
    ['grey.0001.png', 'grey.0002.png']
    """
    write_together(
        source, [Output(delivery_format, target)], frames, Fraction(1),
        stamp=stamp, progress=progress, cancelled=cancelled,
    )  # fmt: skip


def write_movie(
    source: FrameSource, delivery_format: DeliveryFormat, target: Target, frames: Iterable[int],
    rate: Fraction, *, stamp: Stamp | None = None, progress: Progress | None = None,
    cancelled: Asked | None = None,
) -> None:  # fmt: skip
    """Write one movie; the frames are evaluated ahead on threads while the encoder works.

    Parameters
    ----------
    source : gives the picture of a frame number, scene-linear, premultiplied over black; called on threads.
    delivery_format, target : of the delivery. The movie appears under its name only when it is whole.
    frames : those to be written, in order.
    rate : frames per second.
    stamp : what the header says besides, such as the first frame's timecode.
    progress : called with each frame number when it is encoded.
    cancelled : asked between frames.

    Raises
    ------
    Cancelled
        ``cancelled`` said yes; nothing is left.
    DiskFull, WriteFailed
        The movie cannot be written; nothing is left.

    Examples
    --------
    >>> import tempfile
    >>> from pathlib import Path
    >>> from neatveil.delivery import format_named
    >>> from neatveil.picture import PremultipliedPicture
    >>> grey = PremultipliedPicture.from_rgba(np.ones((16, 16, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     target = Target(Path(folder, "grey.mov"))
    ...     write_movie(lambda n: grey, format_named("prores4444-straight"), target, [1, 2], Fraction(25))
    ...     target.path.stat().st_size > 0
    True
    """
    write_together(
        source, [Output(delivery_format, target)], frames, rate,
        stamp=stamp, progress=progress, cancelled=cancelled,
    )  # fmt: skip
