"""Writing one frame as it is meant: made under a hidden name and renamed when it is whole."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import TypeAlias

import numpy as np

from ..alpha import store
from ..alpha.one_bit import covered_or_not
from ..alpha.past_edge import past_edge
from ..colour.primaries import PRIMARIES
from ..errors import ValueRefused
from ..io.backends import oiio_writing
from ..io.sequences import Pattern
from ..io.whole import remove_parts_in, whole_file
from ..picture import RGB, PremultipliedPicture, StoredPicture, whole_frame
from .dither import dithered
from .file_layers import joined, split
from .formats import DeliveryFormat
from .timecode import Timecode

FrameSource: TypeAlias = Callable[[int], PremultipliedPicture]


@dataclass(frozen=True, slots=True)
class Target:
    """Where a delivery's files go: a pattern for frames, a file for a movie."""

    path: Path

    def frame_path(self, frame: int) -> Path:
        return Pattern.parse(self.path).path(frame)

    def files(self, delivery_format: DeliveryFormat, frames: Iterable[int]) -> list[Path]:
        return [self.path] if delivery_format.kind == "movie" else [self.frame_path(f) for f in frames]

    def checked(self, delivery_format: DeliveryFormat) -> Target:
        """Itself; `ValueRefused` where the name does not fit the format."""
        if self.path.suffix.lower() != delivery_format.ending:
            raise ValueRefused(
                f"{self.path.name} does not end in {delivery_format.ending}, "
                f"as {delivery_format.title} must.",
                where=str(self.path),
            )
        if delivery_format.kind == "frames" and not Pattern.is_pattern(self.path):
            raise ValueRefused(
                f"{self.path.name} marks no frame number.",
                advice="Write the number as ####, as in shot.####.png.",
                where=str(self.path),
            )
        return self


def remove_parts(target: Target) -> None:
    """Remove what a writer that was killed left behind; only while nothing writes to the target.

    Parameters
    ----------
    target : of the delivery.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     remove_parts(Target(Path(folder, "dusk.####.png")))
    """
    head = target.path.name.split("#")[0].removesuffix(target.path.suffix)
    remove_parts_in(target.path.parent, head, target.path.suffix)


def meant(picture: PremultipliedPicture, delivery_format: DeliveryFormat, frame: int = 0) -> StoredPicture:
    """The code values that the file should hold: the whole frame, filled up with nothing.

    Straight colour runs on past the edge. Alpha alone is three planes alike in a movie, a grey one in frames.
    Layers beside the picture have its form; data is left as it is.
    ``frame``: its number; noise that moves goes by it.
    """
    main, layers, data = split(picture)
    stored = joined(
        _codes(main, delivery_format), {n: _codes(p, delivery_format) for n, p in layers.items()}, data
    )
    codec = delivery_format.codec
    if codec.alpha_bits == 1:
        stored = covered_or_not(stored)
    if delivery_format.dither == "none" or codec.floating:
        return stored
    seed = frame + 1 if delivery_format.dither == "moving" else 0
    return stored.with_planes(dithered(stored.planes, codec.bits, seed))


def _codes(picture: PremultipliedPicture, delivery_format: DeliveryFormat) -> StoredPicture:
    whole = held(picture, delivery_format)
    if delivery_format.contents == "alpha":
        names = RGB if delivery_format.kind == "movie" else ("Y",)
        return StoredPicture(dict.fromkeys(names, whole["A"]), whole.data_window, whole.display_window)
    stored = store(whole, delivery_format.reading, delivery_format.encoding)
    if delivery_format.reading.alpha == "straight":
        stored = stored.with_planes(past_edge(stored.planes, delivery_format.past_edge))
    if delivery_format.holds_alpha:
        return stored
    return stored.with_planes({n: stored[n] for n in RGB})


def held(picture: PremultipliedPicture, delivery_format: DeliveryFormat) -> PremultipliedPicture:
    """The whole frame, its alpha raised where it is 0 and light has none, if that was asked.

    Raised to the brightest of R, G, B, at most to 1: the least alpha under which a straight colour of at most
    1 gives that light.
    """
    whole = whole_frame(picture)
    if delivery_format.light != "raised" or delivery_format.reading.alpha != "straight":
        return whole
    light = np.clip(np.maximum.reduce([whole[n] for n in RGB]), 0, 1)
    return whole.with_planes({**whole.planes, "A": np.where(whole["A"] == 0, light, whole["A"])})


@dataclass(frozen=True, slots=True)
class Stamp:
    """What headers say besides the picture.

    ``timecode``: of the frame numbered ``first``; ``source``: a hash of what was delivered.
    """

    rate: Fraction
    first: int = 0
    timecode: Timecode | None = None
    source: str = ""

    def header(self, delivery_format: DeliveryFormat, frame: int) -> dict[str, oiio_writing.HeaderValue]:
        """For the file of a frame, where its format has a place for it."""
        code = None if self.timecode is None else self.timecode.after(frame - self.first).packed()
        found: dict[str, oiio_writing.HeaderValue] = {}
        if delivery_format.ending == ".exr":
            found["framesPerSecond"] = self.rate
            if self.source:
                found["neatveil:source"] = self.source
            if delivery_format.encoding == "linear":
                p = PRIMARIES["bt709"]
                found["chromaticities"] = [*p.red, *p.green, *p.blue, *p.white]
        if code is not None and delivery_format.ending in {".exr", ".dpx"}:
            found["smpte:TimeCode"] = code
        return found


def write_frame(
    picture: PremultipliedPicture, delivery_format: DeliveryFormat, path: Path, frame: int = 0,
    stamp: Stamp | None = None,
) -> None:  # fmt: skip
    """One frame, whole or not at all. ``stamp``: what its header says besides.

    Raises `DiskFull` or `WriteFailed`; nothing is left under the final or the hidden name then.
    """
    stored = meant(picture, delivery_format, frame)
    with whole_file(path) as part:
        oiio_writing.write(
            part, stored, sample=delivery_format.codec.sample,
            samples=dict.fromkeys(stored.data_planes, "float"),
            alpha_straight=delivery_format.reading.alpha == "straight",
            encoding=delivery_format.encoding, compression=delivery_format.codec.compression,
            tiles=delivery_format.tiles, parts=delivery_format.multipart,
            attributes={
                **delivery_format.codec.header,
                **({} if stamp is None else stamp.header(delivery_format, frame)),
            },
        )  # fmt: skip
