"""One frame of an element as its files hold it: gaps filled, channels carried along from other files."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from ..channels.luma import LUMA_WEIGHTS
from ..colour import encoding_named
from ..comp import Carried, Element
from ..errors import FrameMissing, ValueRefused
from ..io.decoder import Decoder
from ..io.sequences import Pattern
from ..picture import RGB, RGBA, Plane, StoredPicture, plane_over


def read_stored(
    decoder: Decoder, element: Element, frame: int, planes: list[str] | None = None
) -> StoredPicture:
    """Code values of one frame: the file's own channels and those that are carried along.

    ``planes``: names; None is R, G, B, A (or Y) with everything that carries one of them.

    Raises `FrameMissing` in a gap that is an error; `ValueRefused` where a carried channel is of
    another size.
    """
    carried = [c for c in element.joined if (c.name in planes if planes else c.name in {*RGBA, "Y"})]
    taken = {c.name for c in carried}
    own = [n for n in planes if n not in taken] if planes else _own(element)
    if own is not None and not own:
        picture = _carried_picture(decoder, element, carried[0], frame)
        carried = carried[1:]
    else:
        picture = _own_frame(decoder, element, frame, own)
        if planes is None and "Y" in taken:
            picture = picture.with_planes({n: p for n, p in picture.planes.items() if n not in RGB})
    for part in carried:
        picture = _with_part(picture, part, _carried_plane(decoder, element, part, frame))
    data = (picture.data_planes | {n for n, k in element.kinds.items() if k == "data"}) - {
        n for n, k in element.kinds.items() if k == "colour"
    }
    return StoredPicture(picture.planes, picture.data_window, picture.display_window, data_planes=data)


def files_of(element: Element, frame: int) -> list[Path]:
    """The files that a frame is made of; a gap's own file is not there."""
    found = [_path(element.file, frame)] if element.only != () else []
    for part in element.joined:
        number = _number(element, part, frame)
        if number is not None:
            found.append(_path(part.file, number))
    return found


def halves_as_stored(element: Element) -> bool:
    """Whether the mean of stored values is the mean of their light: linear, and over black or opaque."""
    own = not element.joined and element.only is None and not element.kinds and element.gaps == "error"
    reading = element.reading
    light = reading.alpha == "none" or (reading.alpha == "premultiplied" and not any(reading.matte))
    return own and light and not reading.inverted and encoding_named(element.encoding).name == "linear"


def _path(file: str, frame: int) -> Path:
    return Pattern.parse(file).path(frame) if Pattern.is_pattern(file) else Path(file)


def _own(element: Element) -> list[str] | None:
    """Which of the file's own channels are asked for; None leaves it to the file."""
    if element.only is None:
        return None
    return [n for n in element.only if n in {*RGBA, "Y"}] or list(element.only)


def _own_frame(decoder: Decoder, element: Element, frame: int, planes: list[str] | None) -> StoredPicture:
    try:
        return _narrowed(decoder.read(element.file, frame, planes), planes)
    except FrameMissing:
        if element.gaps == "error":
            raise
    there = Pattern.parse(element.file).frames()
    before = [f for f in there if f < frame]
    stand_in = _narrowed(decoder.read(element.file, before[-1] if before else there[0], planes), planes)
    if element.gaps == "hold":
        return stand_in
    return stand_in.with_planes({n: np.zeros_like(p) for n, p in stand_in.planes.items()})


def _narrowed(picture: StoredPicture, planes: list[str] | None) -> StoredPicture:
    """Movies give all their planes: only those that were asked for."""
    if planes is None or set(picture.planes) == set(planes):
        return picture
    return picture.with_planes({n: picture[n] for n in planes if n in picture.planes})


def _number(element: Element, part: Carried, frame: int) -> int | None:
    """The frame of the part's own file; None where it has none and blank stands in."""
    if part.still:
        return part.first
    number = part.first + frame - element.first - part.offset
    if part.first <= number <= part.last:
        return number
    if part.beyond == "hold":
        return min(max(number, part.first), part.last)
    if part.beyond == "blank":
        return None
    raise FrameMissing(
        f"{element.name}: {part.name} comes from {Path(part.file).name}, which has no frame for {frame}.",
        advice="Hold its last frame, leave it blank, or import the missing frames.",
        where=element.name,
    )


def _carried_plane(decoder: Decoder, element: Element, part: Carried, frame: int) -> StoredPicture | None:
    """The part as a picture of one plane under its new name; None stands for nothing there."""
    number = _number(element, part, frame)
    if number is None:
        return None
    source = decoder.read(part.file, number, [part.channel] if part.channel and _takes(part.file) else None)
    plane = _chosen(source, part)
    if part.inverted:
        plane = np.float32(1) - plane
    kind = {part.name} if part.data else set()
    return StoredPicture({part.name: plane}, source.data_window, source.display_window, data_planes=kind)


def _takes(file: str) -> bool:
    """Whether single channels can be asked of a file: of a movie only all."""
    return Path(file).suffix.lower() in {".exr", ".tif", ".tiff", ".png", ".dpx", ".tga"}


def _chosen(source: StoredPicture, part: Carried) -> Plane:
    if part.channel:
        if part.channel not in source.planes:
            raise ValueRefused(
                f"{Path(part.file).name} has no channel {part.channel}.",
                advice=f"It has {', '.join(source.planes)}.", where=Path(part.file).name,
            )  # fmt: skip
        return source[part.channel]
    if "Y" in source.planes:
        return source["Y"]
    if all(n in source.planes for n in RGB):
        r, g, b = (source[n] for n in RGB)
        if np.array_equal(r, g) and np.array_equal(g, b):
            return r  # a grey that was stored as colour: exactly as it is
        wr, wg, wb = (np.float32(w) for w in LUMA_WEIGHTS["bt709"])
        luma: Plane = wr * r + wg * g + wb * b
        return luma
    return next(iter(source.planes.values()))


def _carried_picture(decoder: Decoder, element: Element, part: Carried, frame: int) -> StoredPicture:
    """An element that is nothing but what it carries."""
    got = _carried_plane(decoder, element, part, frame)
    if got is None:
        got = _carried_plane(decoder, element, part.model_copy(update={"beyond": "hold"}), frame)
        assert got is not None
        return got.with_planes({n: np.zeros_like(p) for n, p in got.planes.items()})
    return got


def _with_part(picture: StoredPicture, part: Carried, got: StoredPicture | None) -> StoredPicture:
    if got is None:
        plane = np.zeros_like(next(iter(picture.planes.values())))
        return picture.with_planes({**picture.planes, part.name: plane})
    if (got.display_window.width, got.display_window.height) != (
        picture.display_window.width, picture.display_window.height,
    ):  # fmt: skip
        raise ValueRefused(
            f"{part.name} from {Path(part.file).name} is {got.display_window.width} x "
            f"{got.display_window.height}, the picture {picture.display_window.width} x "
            f"{picture.display_window.height}.",
            advice="Import both in one size.", where=Path(part.file).name,
        )  # fmt: skip
    area = picture.data_window
    plane = plane_over(got[part.name], got.data_window, area)
    return StoredPicture(
        {**picture.planes, part.name: plane}, area, picture.display_window,
        data_planes=picture.data_planes | got.data_planes,
    )  # fmt: skip
