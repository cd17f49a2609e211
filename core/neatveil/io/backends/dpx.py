"""DPX pictures: header and samples, by the standard.

Every packing of 8, 10, 12 and 16 bits, in either byte order. Rows begin on whole 32-bit words; files whose
rows do not, which some programs write, are told by their length. Code values are shares of the largest code.

Source: SMPTE ST 268-1:2014, file format for digital moving-picture exchange [ST268], tables 1 to 4 and
annex C (field offsets from memory; the tests compare with two other libraries).
"""

from __future__ import annotations

import struct
from dataclasses import dataclass
from fractions import Fraction
from math import isfinite
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import FileDamaged, FileEmpty, FileMissing, NameUnknown, PictureTooLarge
from ...numeric.pool import for_strips
from ...picture import Box, Plane, StoredPicture, new_planes
from ..facts import ChannelFact, Facts
from ..rates import usual_rate
from . import orientation
from .movie_notes import INTERLACED, not_square

_MAGIC = {b"SDPX": ">", b"XPDS": "<"}
_UNDEFINED = 0xFFFFFFFF
#: Image orientation (table 2) by the number that TIFF has for it.
_TURNS = {0: 1, 1: 2, 2: 4, 3: 3, 4: 5, 5: 8, 6: 6, 7: 7}
#: Channels of an image element by its descriptor (table 1).
_CHANNELS = {1: "R", 2: "G", 3: "B", 4: "A", 6: "Y", 50: "RGB", 51: "RGBA", 52: "ABGR"}
#: Encodings by transfer characteristic (table 5A), and what is not converted.
_TRANSFER = {1: "density", 2: "linear", **dict.fromkeys(range(5, 11), "rec709")}
_UNCONVERTED = {3: "logarithmic codes of no stated curve"}
_MAX_SAMPLES = 16384 * 16384 * 4


@dataclass(frozen=True, slots=True)
class _Element:
    """One image element: where its samples are and how they are packed."""

    letters: str
    transfer: int
    bits: int
    packing: int
    offset: int
    row_padding: int


@dataclass(frozen=True, slots=True)
class _Header:
    path: Path
    order: str
    width: int
    height: int
    turn: int
    elements: tuple[_Element, ...]
    rate: float | None
    aspect: tuple[int, int] | None
    interlaced: bool


def is_dpx(path: Path) -> bool:
    """Whether the ending says so; a file that is something else is refused by its first bytes."""
    return path.suffix.lower() == ".dpx"


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of the frame once it is upright."""
    header = _header(path)
    return orientation.size(header.width, header.height, header.turn)


def probe(path: Path) -> Facts:
    """Facts from the header alone."""
    h = _header(path)
    names = _names(h)
    width, height = orientation.size(h.width, h.height, h.turn)
    colour = next((e for e in h.elements if e.letters != "A"), h.elements[0])
    encoding = _TRANSFER.get(colour.transfer)
    alpha = "A" in names
    return Facts(
        kind="still", name=path.name, format="DPX", width=width, height=height, codec="none",
        pixel_format=f"uint{colour.bits}", bit_depth=colour.bits,
        channels=[ChannelFact(name=n, sample=f"uint{colour.bits}") for n in names],
        alpha=alpha, alpha_use="unknown" if alpha else "none", encoding=encoding or "srgb",
        encoding_by="the file" if encoding else "usual for DPX", bytes=path.stat().st_size,
        rate=usual_rate(h.rate), notes=_notes(h, colour),
    )  # fmt: skip


def _notes(h: _Header, colour: _Element) -> list[str]:
    found = []
    if colour.transfer in _UNCONVERTED:
        found.append(
            f"The file says that it holds {_UNCONVERTED[colour.transfer]}, which are not converted: "
            "its colours are not right."
        )
    if h.turn != 1:
        found.append(orientation.SHOWN_UPRIGHT)
    if h.aspect is not None and h.aspect[0] != h.aspect[1]:
        found.append(not_square(Fraction(*h.aspect)))
    if h.interlaced:
        found.append(INTERLACED)
    return found


def read(path: Path, names: list[str] | None = None) -> StoredPicture:
    """The chosen channels, by default all; `FileDamaged` where pixels are missing."""
    h = _header(path)
    known = _names(h)
    unknown = [n for n in names or [] if n not in known]
    if unknown:
        raise NameUnknown(
            f"{path.name} has no channel {', '.join(unknown)}.",
            advice=f"It has {', '.join(known)}.", where=path.name,
        )  # fmt: skip
    planes = new_planes(names or known, h.height, h.width)
    data = path.read_bytes()
    for element in h.elements:
        chosen = {letter: i for i, letter in enumerate(element.letters) if letter in planes}
        if chosen:
            _fill(planes, chosen, element, h, data)
    frame = Box.sized(h.width, h.height)
    picture = StoredPicture(planes, frame, frame)
    return picture if h.turn == 1 else orientation.upright(picture, h.turn)


def _names(h: _Header) -> list[str]:
    letters = [n for e in h.elements for n in e.letters]
    return [n for n in "RGBYA" if n in letters]


def _header(path: Path) -> _Header:
    if not path.is_file():
        raise FileMissing(f"{path.name} is not there.", where=path.name)
    with path.open("rb") as file:
        head = file.read(2048)
    if not head:
        raise FileEmpty(
            f"{path.name} is empty (0 bytes).", advice="Copy or render it again.", where=path.name
        )
    order = _MAGIC.get(head[:4])
    if order is None or len(head) < 1664:
        raise _damaged(path, "its header is not that of a DPX file")
    turn, count, width, height = struct.unpack_from(order + "HHII", head, 768)
    if not 0 < width * height * 4 <= _MAX_SAMPLES:
        raise PictureTooLarge(
            f"{path.name} says it is {width} x {height}; at most {_MAX_SAMPLES // 4:,} pixels are read.",
            advice="The file is probably damaged; check where it came from.", where=path.name,
        )  # fmt: skip
    start = struct.unpack_from(order + "I", head, 4)[0]
    elements = tuple(_element(path, order, head, i, start) for i in range(min(max(count, 1), 8)))
    return _Header(
        path, order, width, height, _TURNS.get(turn, 1), elements,
        *_film_and_video(order, head.ljust(2048, b"\xff")),
    )  # fmt: skip


def _film_and_video(order: str, head: bytes) -> tuple[float | None, tuple[int, int] | None, bool]:
    """Frame rate, pixel aspect and interlacing; fields whose bits are all set are undefined."""
    aspect = struct.unpack_from(order + "II", head, 1628)
    rates = [struct.unpack_from(order + "f", head, at)[0] for at in (1724, 1940)]
    rate = next((r for r in rates if isfinite(r) and 0 < r < 1000), None)
    square = _UNDEFINED in aspect or 0 in aspect
    return rate, None if square else (int(aspect[0]), int(aspect[1])), head[1928] == 1


def _element(path: Path, order: str, head: bytes, index: int, start: int) -> _Element:
    at = 780 + 72 * index
    sign = struct.unpack_from(order + "I", head, at)[0]
    descriptor, transfer, _, bits = head[at + 20 : at + 24]
    packing, run_length, offset, row_padding = struct.unpack_from(order + "HHII", head, at + 24)
    if descriptor not in _CHANNELS:
        raise _damaged(path, f"its samples are of kind {descriptor}; R, G, B, A and luma are read")
    if bits not in {8, 10, 12, 16} or packing > 2:
        raise _damaged(path, f"its samples have {bits} bits; 8, 10, 12 and 16 are read")
    if run_length == 1 or sign == 1:
        raise _damaged(path, "its samples are run-length coded or signed")
    where = start if offset in {0, _UNDEFINED} else offset
    padding = 0 if row_padding == _UNDEFINED else row_padding
    return _Element(_CHANNELS[descriptor], transfer, bits, packing, where, padding)


def _damaged(path: Path, why: str) -> FileDamaged:
    return FileDamaged(
        f"{path.name} cannot be read as DPX: {why}.",
        advice="Export it again in another way.",
        where=path.name,
    )


def _fill(
    planes: dict[str, Plane], chosen: dict[str, int], element: _Element, h: _Header, data: bytes
) -> None:
    count = h.width * len(element.letters)
    row_bytes = _row_bytes(count, element)
    padded = -(-row_bytes // 4) * 4 + element.row_padding
    have = len(data) - element.offset
    stride = row_bytes if have < padded * (h.height - 1) + row_bytes else padded
    if have < stride * (h.height - 1) + row_bytes:
        raise FileDamaged(
            f"{h.path.name} ends before its last row.", advice="Copy or render it again.", where=h.path.name
        )
    block = np.frombuffer(data, np.uint8, min(have, stride * h.height), element.offset)
    if block.size < stride * h.height:
        block = np.concatenate([block, np.zeros(stride * h.height - block.size, np.uint8)])
    rows = block.reshape(h.height, stride)
    top = np.float32((1 << element.bits) - 1)

    def strip(a: int, b: int) -> None:
        codes = _codes(rows[a:b, :row_bytes], count, element, h.order)
        for letter, index in chosen.items():
            # divided, not multiplied by the inverse: the largest code is 1 exactly
            np.divide(codes[:, index :: len(element.letters)], top, out=planes[letter][a:b])

    for_strips(h.height, h.width * 16, strip)


def _row_bytes(count: int, element: _Element) -> int:
    """Bytes that a row's samples take, before it is filled up to whole words."""
    if element.bits in {8, 16}:
        return count * element.bits // 8
    if element.packing == 0:
        return -(-count * element.bits // 32) * 4
    return -(-count // 3) * 4 if element.bits == 10 else count * 2


def _codes(rows: NDArray[np.uint8], count: int, element: _Element, order: str) -> NDArray[Any]:
    """``(rows, count)`` code values of packed rows."""
    rows = np.ascontiguousarray(rows)
    if element.bits == 8:
        return rows
    if element.bits == 16:
        return rows.view(order + "u2")
    if element.packing == 0:
        return _from_bits(rows.view(order + "u4"), count, element.bits)
    if element.bits == 12:
        codes = rows.view(order + "u2")
        return codes >> 4 if element.packing == 1 else codes & 0xFFF
    words = rows.view(order + "u4")
    low = 2 if element.packing == 1 else 0  # the two spare bits are the lowest, or the highest
    shifts = (low + 20, low + 10, low) if len(element.letters) > 1 else (low, low + 10, low + 20)
    three = np.stack([(words >> s) & 0x3FF for s in shifts], axis=-1)
    return three.reshape(rows.shape[0], -1)[:, :count]


def _from_bits(words: NDArray[Any], count: int, bits: int) -> NDArray[Any]:
    """Samples one behind another across words, each from its lowest bit on."""
    little = np.ascontiguousarray(words.astype("<u4"))
    stream = np.unpackbits(little.view(np.uint8), axis=1, count=count * bits, bitorder="little")
    weights = (1 << np.arange(bits)).astype(np.float32)
    return np.asarray(stream.reshape(words.shape[0], count, bits) @ weights)
