"""What every form of delivery states."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from ...alpha import Reading


@dataclass(frozen=True, slots=True)
class Form:
    """A form of delivery.

    Attributes
    ----------
    kind : one file a frame, or one movie.
    ending : the file's ending with its dot.
    reading : how the written file is to be read; also how it is written.
    encoding : colour encoding of the written code values.
    sample : uint8, uint16, half or float for frames.
    codec, pixel_format, container, options : for movies, as FFmpeg names them.
    colour_tolerance, alpha_tolerance : largest honest difference between what was meant and what
        is read back, in code values 0..1; ``relative`` makes the colour's relative to the value.
    """

    name: str
    title: str
    help: str
    kind: Literal["frames", "movie"]
    ending: str
    reading: Reading
    encoding: str
    sample: str = ""
    compression: str = ""
    codec: str = ""
    pixel_format: str = ""
    container: str = ""
    options: dict[str, str] = field(default_factory=dict)
    colour_tolerance: float = 0.0
    alpha_tolerance: float = 0.0
    relative: bool = False

    @property
    def whole_numbers(self) -> bool:
        """Whether it holds code values of 0..1 and nothing beyond."""
        return self.kind == "movie" or self.sample.startswith("uint")
