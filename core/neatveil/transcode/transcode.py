"""Transcoding: frames are read, held in the new format, and compared one by one once they are written."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path

import numpy as np
from pydantic import AliasChoices, BaseModel, ConfigDict, Field

from ..alpha import Reading, read, store
from ..alpha.one_bit import covered_or_not
from ..codecs import Codec
from ..colour import encoding_name, encoding_named
from ..colour.spaces import is_linear_space
from ..comp import Element
from ..errors import CannotHoldAlpha, NeatVeilError, WouldLose
from ..evaluate.stored import read_stored
from ..io import Facts, Pattern
from ..io.backends import oiio_writing
from ..io.backends.av_writing import write_pictures
from ..io.backends.movies import open_movie
from ..io.backends.samples import clamped
from ..io.decoder import Decoder
from ..io.whole import whole_file
from ..numeric.ahead import ahead, unless
from ..numeric.half import within_half
from ..numeric.pool import in_this_thread
from ..numeric.threads import workers
from ..picture import RGB, RGBA, StoredPicture, plane_over, rgb_planes, seen_planes, whole_frame
from .losses import channels_of, extra_channels

Asked = Callable[[], bool]
Progress = Callable[[int], None]


class FrameCheck(BaseModel):
    """One frame before and after. Errors in code values 0..1."""

    model_config = ConfigDict(extra="forbid")

    frame: int
    colour_mean: float
    colour_most: float
    alpha_most: float


class TranscodeReport(BaseModel):
    """What the comparison of every frame found. ``problems`` are sentences."""

    model_config = ConfigDict(extra="forbid")

    #: Name of the codec; reports of before say ``form``.
    codec: str = Field(validation_alias=AliasChoices("codec", "form"))
    frames_before: int
    frames_after: int
    colour_mean: float = 0.0
    colour_most: float = 0.0
    alpha_most: float = 0.0
    worst_frame: int | None = None
    frames: list[FrameCheck] = []
    problems: list[str] = []


def reading_after(element: Element, codec: Codec, has_alpha: bool) -> tuple[Reading, str]:
    """How the rewritten element is read, and its encoding.

    Integers keep code values and their meaning as they are; light that becomes integers is encoded first, as
    straight sRGB, since linear code values in few bits would band. Floating-point files hold linear light,
    premultiplied over black: that is what everybody reads them as.
    """
    own = encoding_named(element.encoding)
    linear = own.name == "linear" or is_linear_space(element.encoding)
    encoded = encoding_name("srgb", own.primaries) if linear else element.encoding
    ignored = element.reading.alpha == "none" or not has_alpha
    if codec.floating:
        kept = Reading(alpha="none") if ignored else Reading(alpha="premultiplied")
        return kept, encoding_name("linear", own.primaries)
    if has_alpha and not codec.alpha:
        return Reading(alpha="none"), encoded
    if not linear:
        return element.reading, element.encoding
    return Reading(alpha="none" if ignored else "straight"), encoded


def as_held(picture: StoredPicture, element: Element, codec: Codec) -> StoredPicture:
    """The whole frame as the format should hold it: R, G, B, where it holds one A, and channels besides.

    Data and channels besides are held as they are.
    """
    seen = seen_planes(picture)
    if seen is None or rgb_planes(picture) is None:
        return _data_as_held(picture, element, codec)
    shape = (picture.data_window.height, picture.data_window.width)
    has_alpha = picture.has_alpha
    alpha = picture["A"] if has_alpha else np.ones(shape, np.float32)
    frame = picture.display_window
    colour, data = seen
    whole = {**colour, "A": alpha}
    full = whole_frame(
        StoredPicture(whole, picture.data_window, frame, data_planes=data | (picture.data_planes & {"A"}))
    )
    own_alpha = full["A"]
    reading, encoding = reading_after(element, codec, has_alpha)
    if (reading, encoding) != (element.reading, element.encoding):
        full = store(read(full, element.reading, element.encoding), reading, encoding)
    names = RGBA if has_alpha and codec.alpha else RGB
    # an alpha that is ignored stays in the file as it is
    planes = {n: full.planes.get(n, own_alpha) for n in names}
    if codec.floating:
        planes = {n: p if n in data else within_half(p) for n, p in planes.items()}
    else:
        planes = {n: clamped(p) for n, p in planes.items()}
    extra = {
        n: plane_over(p, picture.data_window, frame)
        for n, p in picture.planes.items()
        if n not in {*RGBA, "Y"}
    }
    held = StoredPicture({**planes, **extra}, frame, data_planes=data | picture.data_planes - {"Y"})
    return covered_or_not(held) if codec.alpha_bits == 1 else held


def _data_as_held(picture: StoredPicture, element: Element, codec: Codec) -> StoredPicture:
    """Of an element that has no colour: its channels as they are, where the format holds them by name."""
    if not codec.floating:
        raise WouldLose(
            f"{element.name} has no colour, and {codec.title} holds nothing else.",
            advice="Choose OpenEXR, which holds every channel by its name.", where=element.name,
        )  # fmt: skip
    frame = picture.display_window
    planes = {n: plane_over(p, picture.data_window, frame) for n, p in picture.planes.items()}
    return StoredPicture(planes, frame, data_planes=picture.data_planes)


def transcode(
    element: Element, decoder: Decoder, codec: Codec, path: Path, frames: Iterable[int],
    *, rate: Fraction, allow_loss: bool = False, progress: Progress | None = None,
    cancelled: Asked | None = None,
) -> None:  # fmt: skip
    """Write the element's frames to a movie or a pattern; nothing half-written is left under its name.

    Raises `CannotHoldAlpha` before anything is written, unless ``allow_loss``, and `ValueRefused` for a size
    that the codec cannot hold; `Cancelled`; errors of reading and writing.
    """
    numbers = list(frames)
    facts = decoder.probe(element.file)
    wanted = _wanted(element, facts, codec)
    first = read_stored(decoder, element, numbers[0], wanted)
    if first.has_alpha and not codec.alpha and not allow_loss and element.reading.alpha != "none":
        raise CannotHoldAlpha(
            f"{codec.title} cannot hold the alpha of {element.name}.",
            advice="Choose another format, or say that the alpha may go.", where=element.name,
        )  # fmt: skip
    codec.refuse_size(first.display_window.width, first.display_window.height, element.name)
    meaning = reading_after(element, codec, first.has_alpha)

    def source(frame: int) -> StoredPicture:
        with in_this_thread():
            return as_held(read_stored(decoder, element, frame, wanted), element, codec)

    going = unless(cancelled, numbers, "Transcoding was cancelled.")
    if codec.kind == "frames":
        _frames(source, codec, path, going, meaning, _samples(facts, wanted), progress)
        return
    # one ahead: a movie is decoded in order
    write_pictures(
        path, zip(numbers, ahead(source, going, 1), strict=True), rate, codec=codec, encoding=meaning[1],
        progress=progress,
    )  # fmt: skip


def frame_path(path: Path, frame: int) -> Path:
    """Of a pattern, the frame's file; of a still, the still."""
    return Pattern.parse(path).path(frame) if Pattern.is_pattern(path) else path


def _wanted(element: Element, facts: Facts, codec: Codec) -> list[str] | None:
    """The channels to read; None where colour and alpha are all that the format keeps."""
    extra = extra_channels(element, facts, codec)
    if not extra:
        return None
    return [n for n in channels_of(element, facts) if n in {*RGBA, "Y"}] + extra


def _samples(facts: Facts, wanted: list[str] | None) -> dict[str, str]:
    """Sample types of channels besides colour and alpha: halves stay halves, all others become float."""
    if wanted is None:
        return {}
    halves = {c.name for c in facts.channels if c.sample == "half"}
    return {n: "half" if n in halves else "float" for n in wanted if n not in {*RGBA, "Y"}}


def _with_data(samples: dict[str, str], picture: StoredPicture) -> dict[str, str] | None:
    """Data in R, G, B needs more than the 11 bits of a half number."""
    return {**dict.fromkeys(picture.data_planes & set(RGB), "float"), **samples} or None


def _frames(
    source: Callable[[int], StoredPicture], codec: Codec, path: Path, numbers: Iterable[int],
    meaning: tuple[Reading, str], samples: dict[str, str], progress: Progress | None,
) -> None:  # fmt: skip
    reading, encoding = meaning

    def one(frame: int) -> int:
        picture = source(frame)
        with whole_file(frame_path(path, frame)) as part:
            oiio_writing.write(
                part, picture, sample=codec.sample, alpha_straight=reading.alpha != "premultiplied",
                encoding=encoding, compression=codec.compression, attributes=codec.header,
                samples=_with_data(samples, picture) if codec.floating else None,
            )  # fmt: skip
        return frame

    for frame in ahead(one, numbers, workers()):
        if progress is not None:
            progress(frame)


def check(
    element: Element, decoder: Decoder, codec: Codec, path: Path, frames: Iterable[int],
    *, progress: Progress | None = None, cancelled: Asked | None = None,
) -> TranscodeReport:  # fmt: skip
    """Read every frame of both again and compare what was to be source with what is source."""
    numbers = list(frames)
    wanted = _wanted(element, decoder.probe(element.file), codec)
    report = TranscodeReport(codec=codec.name, frames_before=len(numbers), frames_after=0)
    if codec.kind == "movie":
        report.frames_after = _counted(path, report)
    for index, frame in enumerate(unless(cancelled, numbers, "The check was cancelled.")):
        target = path if codec.kind == "movie" else frame_path(path, frame)
        try:
            found = decoder.read(str(target), index, wanted)
        except NeatVeilError as error:
            report.problems.append(str(error))
            continue
        if codec.kind == "frames":
            report.frames_after += 1
        meant = as_held(read_stored(decoder, element, frame, wanted), element, codec)
        _compare(report, meant, found, codec, frame)
        if progress is not None:
            progress(frame)
    if report.frames_after != report.frames_before:
        report.problems.append(f"{report.frames_before} frames went in, {report.frames_after} came out.")
    return report


def _counted(path: Path, report: TranscodeReport) -> int:
    try:
        reader = open_movie(path)
    except NeatVeilError as error:
        report.problems.append(str(error))
        return 0
    count = reader.count
    reader.close()
    return count


def _compare(
    report: TranscodeReport, meant: StoredPicture, found: StoredPicture, codec: Codec, frame: int
) -> None:
    if next(iter(found.planes.values())).shape != next(iter(meant.planes.values())).shape:
        report.problems.append(f"Frame {frame} has another size than before.")
        return
    alpha = meant.planes.get("A")
    means, most = [], 0.0
    for n in (n for n in RGB if n in meant.planes):
        off = np.abs(found[n] - meant[n])
        if codec.floating:
            off = off / np.maximum(np.abs(meant[n]), np.float32(1))
        means.append(float(off.mean()))
        most = max(most, float(off.max()))
    for n in (n for n in meant.planes if n not in RGBA):
        got = found.planes.get(n)
        if got is None or not np.array_equal(got, meant[n], equal_nan=True):
            report.problems.append(f"Frame {frame}: channel {n} is not what it was.")
    alpha_most = 0.0
    if alpha is not None:
        got = found.planes.get("A")
        alpha_most = 1.0 if got is None else float(np.abs(got - alpha).max())
    mean = max(means, default=0.0)
    row = FrameCheck(frame=frame, colour_mean=mean, colour_most=most, alpha_most=alpha_most)
    report.frames.append(row)
    if row.colour_most >= report.colour_most:
        report.worst_frame = frame
    report.colour_mean = max(report.colour_mean, row.colour_mean)
    report.colour_most = max(report.colour_most, row.colour_most)
    report.alpha_most = max(report.alpha_most, row.alpha_most)
    if row.colour_mean > codec.colour_tolerance or row.alpha_most > codec.alpha_tolerance:
        report.problems.append(
            f"Frame {frame} differs by {row.colour_mean * 255:.2f} of 255 in colour in the mean and by "
            f"{row.alpha_most * 255:.2f} at most in alpha, more than {codec.title} should."
        )
