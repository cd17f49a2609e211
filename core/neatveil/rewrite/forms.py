"""What elements can be rewritten to: one row each.

The errors allowed are twice those measured over a round trip of noise; a wrong picture lies far above.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from ..errors import unknown_name

CODE = 1 / 255


@dataclass(frozen=True, slots=True)
class RewriteForm:
    """A codec in its container, or a kind of frames.

    Attributes
    ----------
    alpha : whether it holds one.
    floating : holds light above 1 and below 0; the others hold code values 0..1.
    colour_tolerance, alpha_tolerance : largest honest mean (colour) and largest (alpha) difference
        between a frame and what is read back, in code values 0..1.
    """

    name: str
    title: str
    help: str
    kind: Literal["movie", "frames"]
    ending: str
    alpha: bool
    bits: int
    floating: bool = False
    codec: str = ""
    pixel_format: str = ""
    container: str = ""
    options: dict[str, str] = field(default_factory=dict)
    compression: str = ""
    sample: str = ""
    colour_tolerance: float = 0.0
    alpha_tolerance: float = 0.0


_ROWS = (
    RewriteForm(
        "prores4444", "ProRes 4444 movie", "Opened by nearly every program; alpha in 16 bits, colour "
        "slightly lossy.", "movie", ".mov", True, 10, codec="prores_ks", pixel_format="yuva444p10le",
        container="mov", options={"profile": "4444", "alpha_bits": "16", "vendor": "apl0"},
        colour_tolerance=4 * CODE, alpha_tolerance=0.51 / 1023 + 1 / 4095,
    ),
    RewriteForm(
        "png-movie", "PNG frames in a movie", "Lossless, 16 bits; large.", "movie", ".mov", True, 16,
        codec="png", pixel_format="rgba64be", container="mov", options={"compression_level": "1"},
        colour_tolerance=0.6 / 65535, alpha_tolerance=0.6 / 65535,
    ),
    RewriteForm(
        "ffv1", "FFV1 movie", "Lossless, 16 bits; for keeping.", "movie", ".mkv", True, 16, codec="ffv1",
        pixel_format="gbrap16le", container="matroska", options={"level": "3", "slices": "12"},
        colour_tolerance=0.6 / 65535, alpha_tolerance=0.6 / 65535,
    ),
    RewriteForm(
        "animation", "Animation RLE movie", "Lossless, 8 bits; for old programs.", "movie", ".mov", True, 8,
        codec="qtrle", pixel_format="argb", container="mov", colour_tolerance=0.6 / 255,
        alpha_tolerance=0.6 / 255,
    ),
    RewriteForm(
        "vp9", "VP9 movie for the web", "Small and lossy, alpha too; for showing, not for work.", "movie",
        ".webm", True, 8, codec="libvpx-vp9", pixel_format="yuva420p", container="webm",
        options={"crf": "15", "b": "0", "cpu-used": "6", "row-mt": "1", "auto-alt-ref": "0"},
        colour_tolerance=16 * CODE, alpha_tolerance=60 * CODE,
    ),
    RewriteForm(
        "h264", "H.264 movie", "For viewing anywhere; it cannot hold alpha.", "movie", ".mp4", False, 8,
        codec="libx264", pixel_format="yuv420p", container="mp4", options={"crf": "16", "preset": "faster"},
        colour_tolerance=16 * CODE,
    ),
    RewriteForm(
        "png16", "PNG frames, 16 bits", "Lossless; read by everything.", "frames", ".png", True, 16,
        sample="uint16", colour_tolerance=0.6 / 65535, alpha_tolerance=0.6 / 65535,
    ),
    RewriteForm(
        "tiff16", "TIFF frames, 16 bits", "Lossless.", "frames", ".tif", True, 16, sample="uint16",
        compression="lzw", colour_tolerance=0.6 / 65535, alpha_tolerance=0.6 / 65535,
    ),
    RewriteForm(
        "exr", "OpenEXR frames, half", "Light above white and all extra channels are kept.", "frames",
        ".exr", True, 16, floating=True, sample="half", compression="zip", colour_tolerance=1 / 1024,
        alpha_tolerance=1 / 1024,
    ),
)  # fmt: skip

REWRITE_FORMS: dict[str, RewriteForm] = {form.name: form for form in _ROWS}


def rewrite_form_named(name: str) -> RewriteForm:
    """The form of that name; `NameUnknown` with the valid names otherwise."""
    try:
        return REWRITE_FORMS[name]
    except KeyError:
        raise unknown_name("format to transcode to", name, list(REWRITE_FORMS)) from None
