"""What every codec states."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

#: One code of 8 bits.
CODE = 1 / 255


@dataclass(frozen=True, slots=True)
class Codec:
    """A codec in its container, or a kind of frames.

    Attributes
    ----------
    kind : one movie, or one file a frame.
    ending : the file's ending with its dot.
    alpha : whether it holds one.
    bits : of a sample.
    floating : holds light above 1 and below 0; the others hold code values 0..1.
    encoder, pixel_format, container, options : for movies, as FFmpeg names them.
    sample : ``uint8``, ``uint16``, ``half`` or ``float``, for frames.
    compression : of frames, as OpenImageIO names it.
    colour_tolerance, alpha_tolerance : largest honest mean (colour) and largest (alpha) difference between a
        frame and what is read back, in code values 0..1: twice those measured over a round trip of noise.
    """

    name: str
    title: str
    help: str
    kind: Literal["movie", "frames"]
    ending: str
    alpha: bool
    bits: int
    floating: bool = False
    encoder: str = ""
    pixel_format: str = ""
    container: str = ""
    options: dict[str, str] = field(default_factory=dict)
    sample: str = ""
    compression: str = ""
    colour_tolerance: float = 0.0
    alpha_tolerance: float = 0.0
