"""Pictures from files and into files, as the code values that they hold."""

from __future__ import annotations

from os import PathLike
from pathlib import Path

import numpy as np

from ..alpha import Reading
from ..errors import FormatUnknown
from ..io import Facts, LocalDecoder
from ..io.backends import oiio_writing
from ..io.whole import whole_file
from ..picture import RGB, StoredPicture, plane_over, rgb_planes
from ._given import Array, rgba_of

#: Endings that `write_picture` knows, with the sample of each.
_SAMPLES = {".png": "uint16", ".tif": "uint16", ".tiff": "uint16", ".exr": "half"}


def picture_facts(path: str | PathLike[str]) -> Facts:
    """What a picture file, numbered frames or a movie say of themselves.

    Parameters
    ----------
    path : of a file; of numbered frames with ``#`` for the digits, such as ``kite.####.png``.

    Returns
    -------
    Size, channels with their samples, frames, rate, encoding, what it claims of its alpha, and notes.

    Raises
    ------
    FileDamaged, FormatUnknown
        It cannot be read.

    Notes
    -----
    Source: the file's own standard, as its reader names it.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     write_picture(f"{folder}/dot.png", np.ones((2, 3, 4), np.float32))
    ...     picture_facts(f"{folder}/dot.png").width
    3
    """
    return LocalDecoder().probe(str(path))


def read_picture(path: str | PathLike[str], frame: int = 0) -> Array:
    """The R, G, B and A of a file as stored; `neatveil.arrays.read_as` makes light of them.

    Parameters
    ----------
    path : as for `picture_facts`.
    frame : which, of a movie or of numbered frames.

    Returns
    -------
    ``(H, W, 4)`` code values as stored, integers scaled to 0..1, over the display window. Without an alpha
    it is 1; a grey picture has its grey three times. The alpha's state is what the file's reading states.

    Raises
    ------
    FileDamaged, FormatUnknown, FrameMissing
        It cannot be read.
    ValueRefused
        It has no colour.

    Notes
    -----
    Source: the file's own standard, as its reader names it.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     write_picture(f"{folder}/dot.png", np.full((1, 1, 4), 0.2, np.float32))
    ...     bool(np.allclose(read_picture(f"{folder}/dot.png"), 0.2))
    True
    """
    picture = LocalDecoder().read(str(path), frame)
    planes = dict(rgb_planes(picture) or dict.fromkeys(RGB, picture["A"]))
    if picture.has_alpha:
        planes["A"] = picture["A"]
    full = {n: plane_over(p, picture.data_window, picture.display_window) for n, p in planes.items()}
    opaque = np.ones_like(full["R"])
    return np.dstack([full["R"], full["G"], full["B"], full.get("A", opaque)])


def write_picture(
    path: str | PathLike[str], stored: Array, reading: Reading | None = None, encoding: str = "srgb"
) -> None:
    """Write code values to a file, whole or not at all; `neatveil.arrays.store_as` makes them of light.

    Parameters
    ----------
    path : its ending chooses: ``.png`` and ``.tif`` (16 bits), ``.exr`` (half).
    stored : ``(H, W, 4)`` R, G, B, A code values in the state that ``reading`` states. Integers are rounded
        to nearest after clipping to 0..1.
    reading : what the header is to say of the alpha: straight where it is left out. PNG knows no other.
    encoding : what the header is to say of the colour; a name in `neatveil.arrays.encodings`.

    Raises
    ------
    FormatUnknown
        There is no such ending.
    DiskFull, WriteFailed
        Nothing is left behind then.

    Notes
    -----
    Source: PNG [PNG], TIFF 6.0 [TIFF6], OpenEXR [OpenEXR].

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     write_picture(f"{folder}/dot.exr", np.full((1, 1, 4), 2.0, np.float32), encoding="linear")
    ...     float(read_picture(f"{folder}/dot.exr")[0, 0, 0])
    2.0
    """
    target = Path(path)
    sample = _SAMPLES.get(target.suffix.lower())
    if sample is None:
        raise FormatUnknown(
            f"{target.name}: no picture of this ending is written.",
            advice=f"Endings written: {', '.join(_SAMPLES)}.", where=target.name,
        )  # fmt: skip
    picture = StoredPicture.from_rgba(rgba_of(stored, "stored"))
    straight = reading is None or reading.alpha == "straight"
    with whole_file(target) as part:
        oiio_writing.write(part, picture, sample=sample, alpha_straight=straight, encoding=encoding)
