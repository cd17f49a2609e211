"""The formats that are read and written: one row each."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import PurePath
from typing import Literal

from ..errors import FormatUnknown

AlphaRule = Literal["straight", "premultiplied", "declared", "none", "unsaid"]


@dataclass(frozen=True, slots=True)
class Format:
    """A file format.

    Attributes
    ----------
    alpha : what the format's standard says of alpha: always straight, always premultiplied,
        declared in the file, none possible, or unsaid.
    encoding : colour encoding assumed where the file says nothing.
    """

    name: str
    extensions: tuple[str, ...]
    kind: Literal["still", "movie"]
    alpha: AlphaRule
    alpha_by: str
    encoding: str


FORMATS = (
    Format("PNG", ("png",), "still", "straight", "PNG, 6.2: alpha is not premultiplied", "srgb"),
    Format("OpenEXR", ("exr",), "still", "premultiplied", "OpenEXR: alpha is premultiplied", "linear"),
    Format("TIFF", ("tif", "tiff"), "still", "declared", "TIFF 6.0, ExtraSamples", "srgb"),
    Format("DPX", ("dpx",), "still", "unsaid", "", "srgb"),
    Format("JPEG", ("jpg", "jpeg"), "still", "none", "", "srgb"),
    Format("Targa", ("tga",), "still", "declared", "TGA attribute type", "srgb"),
    Format("WebP", ("webp",), "still", "straight", "WebP container specification", "srgb"),
    Format("JPEG 2000", ("jp2", "j2k"), "still", "unsaid", "", "srgb"),
    Format("Radiance HDR", ("hdr",), "still", "none", "", "linear"),
    Format("SVG", ("svg",), "still", "straight", "drawn here, over nothing", "srgb"),
    Format("QuickTime movie", ("mov",), "movie", "unsaid", "", "rec709"),
    Format("MPEG-4 movie", ("mp4", "m4v"), "movie", "unsaid", "", "rec709"),
    Format("Matroska movie", ("mkv",), "movie", "unsaid", "", "rec709"),
    Format("WebM movie", ("webm",), "movie", "unsaid", "", "rec709"),
    Format("Animated PNG", ("apng",), "movie", "straight", "PNG, 6.2: alpha is not premultiplied", "srgb"),
    Format("GIF", ("gif",), "movie", "straight", "GIF89a, 23: a colour of the palette is nothing", "srgb"),
    Format("AVI movie", ("avi",), "movie", "unsaid", "", "rec709"),
    Format("MXF movie", ("mxf",), "movie", "unsaid", "", "rec709"),
)  # fmt: skip

BY_EXTENSION = {e: f for f in FORMATS for e in f.extensions}


#: Pixels along a side that drawings are drawn with at most.
MOST_DRAWN_SIDE = 16_384


def is_drawing(path: str | PurePath) -> bool:
    """Whether a file is drawn at the size that it is seen at, by its ending."""
    return PurePath(path).suffix.lower() == ".svg"


def format_of(path: str | PurePath) -> Format:
    """The format by the file's ending; `FormatUnknown` that lists the endings otherwise."""
    name = PurePath(path).name
    ending = name.rpartition(".")[2].lower() if "." in name else ""
    if ending not in BY_EXTENSION:
        raise FormatUnknown(
            f"{name}: files that end in {('.' + ending) if ending else 'nothing'} are not read.",
            advice=f"Endings read: {', '.join(sorted(BY_EXTENSION))}.",
            where=name,
        )
    return BY_EXTENSION[ending]
