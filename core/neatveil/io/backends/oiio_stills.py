"""Stills through OpenImageIO [OpenImageIO].

OpenImageIO would premultiply straight files on reading, in the file's own bit depth; it is always
told not to (``oiio:UnassociatedAlpha``), so that what is read is what is stored.
"""

from __future__ import annotations

import shutil
import struct
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio

from ...errors import DiskFull, FileDamaged, FileEmpty, FileMissing, PictureTooLarge, WriteFailed
from ...picture import RGBA, Box, Plane, StoredPicture, new_planes
from ..facts import ChannelFact, Facts
from ..formats import Format, format_of
from .names import is_data_channel

#: Largest number of samples in one part of a picture: 32k x 32k RGBA would not fit any machine here.
MAX_SAMPLES = 16384 * 16384 * 4

# The library itself refuses size fields that ask for more, before it allocates anything.
oiio.attribute("limits:imagesize_MB", MAX_SAMPLES * 4 >> 20)
oiio.attribute("limits:channels", 1024)

_SAMPLES = {"uint8": 8, "uint16": 16, "half": 16, "float": 32, "uint32": 32, "double": 64}


def _open(path: Path) -> Any:
    if not path.is_file():
        raise FileMissing(f"{path.name} is not there.", where=path.name)
    if path.stat().st_size == 0:
        raise FileEmpty(
            f"{path.name} is empty (0 bytes).",
            advice="Copy or render it again.",
            where=path.name,
        )
    expected = format_of(path)
    config = oiio.ImageSpec()
    config.attribute("oiio:UnassociatedAlpha", 1)
    source = oiio.ImageInput.open(str(path), config)
    if source is None:
        reason = oiio.geterror().strip().splitlines()
        raise FileDamaged(
            f"{path.name} cannot be read as {expected.name}: {reason[-1] if reason else 'unknown content'}",
            advice="Copy or render it again, or correct the file's ending.",
            where=path.name,
        )
    spec = source.spec()
    if not 0 < spec.width * spec.height * spec.nchannels <= MAX_SAMPLES:
        source.close()
        raise PictureTooLarge(
            f"{path.name} says it is {spec.width} x {spec.height} with {spec.nchannels} channels; "
            f"at most {MAX_SAMPLES // 4:,} pixels are read.",
            advice="The file is probably damaged; check where it came from.",
            where=path.name,
        )
    return source


def channel_names(spec: Any) -> list[str]:
    """Standard names for the file's channels: a lone grey is Y, its alpha A."""
    names = [str(n) for n in spec.channelnames]
    if len(names) <= 2 and names[0] in {"R", "Y", "I", "L", "channel0"}:
        return ["Y", "A"][: len(names)]
    return names


def _windows(spec: Any) -> tuple[Box, Box]:
    display = Box.sized(spec.full_width, spec.full_height)
    data = Box(0, 0, spec.width, spec.height).shift(spec.x - spec.full_x, spec.y - spec.full_y)
    return data, display


def probe(path: Path) -> Facts:
    """Facts from the header alone."""
    file_format = format_of(path)
    source = _open(path)
    try:
        spec = source.spec()
        names = channel_names(spec)
        formats = [str(f) for f in spec.channelformats] or [str(spec.format)] * spec.nchannels
        bits = int(spec.get_int_attribute("oiio:BitsPerSample", _SAMPLES.get(formats[0], 8)))
        data, display = _windows(spec)
        claim, claim_by = _claim(file_format, spec)
        encoding, encoding_by = _encoding(file_format, spec, formats[0])
        channels = [
            ChannelFact(name=n, sample=f, data=is_data_channel(n))
            for n, f in zip(names, formats, strict=True)
        ]
        alpha = "A" in names
        return Facts(
            kind="still",
            name=path.name,
            format=file_format.name,
            width=display.width,
            height=display.height,
            data_window=data.as_list() if data != display else None,
            codec=str(spec.get_string_attribute("compression")),
            pixel_format=formats[0],
            bit_depth=bits,
            channels=channels,
            alpha=alpha,
            alpha_use="unknown" if alpha else "none",
            alpha_claim=claim if alpha else None,
            alpha_claim_by=claim_by if alpha else "",
            encoding=encoding,
            encoding_by=encoding_by,
            bytes=path.stat().st_size,
            notes=[
                f"Channel {c.name} holds data in {bits} bits; 16 or more are needed."
                for c in channels
                if c.data and bits < 16
            ],
        )
    finally:
        source.close()


def _claim(file_format: Format, spec: Any) -> tuple[Any, str]:
    if file_format.alpha in {"straight", "premultiplied"}:
        return file_format.alpha, file_format.alpha_by
    if file_format.alpha == "declared":
        unassociated = spec.get_int_attribute("oiio:UnassociatedAlpha", 0)
        return ("straight" if unassociated else "premultiplied"), file_format.alpha_by
    return None, ""


def _encoding(file_format: Format, spec: Any, sample: str) -> tuple[str, str]:
    space = str(spec.get_string_attribute("oiio:ColorSpace")).lower()
    if sample in {"half", "float", "double"}:
        return "linear", "floating-point samples"
    if "srgb" in space:
        return "srgb", "the file"
    if "lin" in space:
        return "linear", "the file"
    if "709" in space:
        return "rec709", "the file"
    return file_format.encoding, f"usual for {file_format.name}"


def read(path: Path, names: list[str] | None = None) -> StoredPicture:
    """Code values of the chosen channels (default R, G, B, A or Y) over the data window.

    Raises `FileDamaged` where pixels are missing, `PictureTooLarge`, `FileMissing`, `FileEmpty`.
    """
    source = _open(path)
    try:
        spec = source.spec()
        all_names = channel_names(spec)
        wanted = names or [n for n in all_names if n in RGBA or n == "Y"] or all_names[:3]
        indices = [all_names.index(n) for n in wanted]
        begin, end = min(indices), max(indices) + 1
        pixels = source.read_image(0, 0, begin, end, _asked_type(spec))
        error = source.geterror()
        if pixels is None or error:
            reason = error.strip().splitlines()
            raise FileDamaged(
                f"{path.name} breaks off or is damaged: {reason[-1] if reason else 'no pixels'}",
                advice="Copy or render it again.",
                where=path.name,
            )
        data, display = _windows(spec)
        block = np.asarray(pixels).reshape(spec.height, spec.width, end - begin)
        planes = new_planes(wanted, spec.height, spec.width)
        for n, i in zip(wanted, indices, strict=True):
            _fill(planes[n], block[..., i - begin])
        data_planes = [n for n in planes if is_data_channel(n)]
        return StoredPicture(planes, data, display, data_planes=data_planes)
    finally:
        source.close()


#: Largest code of the integer samples, by NumPy's letter of their type.
_TOP = {"B": 255, "H": 65535}


def _asked_type(spec: Any) -> Any:
    """The file's own sample type where it is a usual one: the library converts to float slowly."""
    usual = spec.format.basetype in {oiio.UINT8, oiio.UINT16, oiio.HALF}
    return spec.format.basetype if usual and not spec.channelformats else oiio.FLOAT


def _fill(plane: Plane, samples: np.ndarray[Any, Any]) -> None:
    """Samples of any type to float32: integers as shares of their largest code, rounded correctly."""
    top = _TOP.get(samples.dtype.char)
    if top is None:
        plane[:] = samples
    else:
        np.divide(np.ascontiguousarray(samples), np.float32(top), out=plane)


def write(
    path: Path,
    picture: StoredPicture,
    *,
    sample: str,
    alpha_straight: bool,
    encoding: str,
    compression: str = "",
    samples: Mapping[str, str] | None = None,
    attributes: Mapping[str, str] | None = None,
    dither: int | None = None,
) -> None:
    """Write code values as they stand; ``sample`` is uint8, uint16, half or float.

    ``samples`` gives single channels another type, where the format can hold that (OpenEXR);
    ``attributes`` are put into the header. ``dither``: a seed; integers are then rounded up or down
    by lot, by how near they lie, so that no bands appear.

    Integers are rounded to nearest after clipping to 0..1. The file appears whole or not at all
    only to the caller's care: write to a temporary name and rename.

    Raises `DiskFull` or `WriteFailed`.
    """
    names: list[str] = [n for n in ("R", "G", "B", "A", "Y") if n in picture.planes]
    names += sorted(n for n in picture.planes if n not in names)
    height, width = picture.planes[names[0]].shape
    spec = oiio.ImageSpec(width, height, len(names), sample)
    spec.channelnames = tuple(names)
    spec.x, spec.y = picture.data_window.x0, picture.data_window.y0
    spec.full_x, spec.full_y = picture.display_window.x0, picture.display_window.y0
    spec.full_width = picture.display_window.width
    spec.full_height = picture.display_window.height
    # PNG knows no other alpha; unless told so the library would divide the colour by it.
    if alpha_straight or path.suffix.lower() == ".png":
        spec.attribute("oiio:UnassociatedAlpha", 1)
    spec.attribute("oiio:ColorSpace", {"srgb": "sRGB", "linear": "lin_rec709"}.get(encoding, encoding))
    if compression:
        spec.attribute("compression", compression)
    for name, text in (attributes or {}).items():
        spec.attribute(name, text)
    if samples:
        spec.channelformats = tuple(oiio.TypeDesc(samples.get(n, sample)) for n in names)
        sample = "float"
    if path.suffix.lower() == ".png":
        spec.attribute("png:compressionLevel", 1)
        spec.attribute("png:filter", 8)
    block = quantise(np.stack([picture.planes[n] for n in names], axis=-1), sample, dither)
    target = oiio.ImageOutput.create(str(path))
    if target is None:
        raise WriteFailed(f"{path.name} cannot be written: {oiio.geterror().strip()}", where=path.name)
    ok = target.open(str(path), spec) and target.write_image(block)
    error = target.geterror().strip()
    closed = target.close()
    if not (ok and closed):
        raise _write_error(path, error or target.geterror().strip())
    if not path.is_file() or path.stat().st_size == 0:
        raise _write_error(path, "the file is empty")
    if path.suffix.lower() == ".png" and not _png_is_whole(path):
        raise _write_error(path, "the file was cut off")


def _png_is_whole(path: Path) -> bool:
    """Walk the chunks to IEND: the library does not say when the disk took only a part.

    Source: PNG specification, 5.3 chunk layout [PNG].
    """
    size = path.stat().st_size
    with path.open("rb") as file:
        at = 8
        while at + 12 <= size:
            file.seek(at)
            length, kind = struct.unpack(">I4s", file.read(8))
            at += 12 + length
            if kind == b"IEND":
                return at == size
    return False


def _write_error(path: Path, reason: str) -> WriteFailed:
    try:
        free = shutil.disk_usage(path.parent).free
    except OSError:
        free = 1 << 40
    if "space" in reason.lower() or free < 1 << 20:
        return DiskFull(
            f"The disk is full: {path.name} could not be written.",
            advice="Free some space and retry; frames already written are kept.",
            where=path.name,
        )
    return WriteFailed(
        f"{path.name} could not be written: {reason or 'unknown reason'}",
        advice="Check the folder's rights and space, then retry.",
        where=path.name,
    )


def quantise(block: np.ndarray[Any, Any], sample: str, dither: int | None = None) -> np.ndarray[Any, Any]:
    """Code values to the sample type of the file: rounded to nearest, or by lot; or float as it stands."""
    if sample == "half":
        return block.astype(np.float16)
    if sample == "float":
        return block.astype(np.float32, copy=False)
    top = {"uint8": 255, "uint16": 65535}[sample]
    kind = {"uint8": np.uint8, "uint16": np.uint16}[sample]
    scaled: np.ndarray[Any, Any] = np.clip(np.nan_to_num(block), 0, 1) * np.float32(top)
    if dither is None:
        return np.rint(scaled).astype(kind)
    lot = np.random.default_rng(dither).random(scaled.shape, np.float32)
    # whole codes stay what they are: arithmetic may leave them a hair below
    return np.floor(scaled + np.float32(1e-4) + lot * np.float32(1 - 2e-4)).astype(kind)
