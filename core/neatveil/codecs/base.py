"""What every codec states."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Literal, NamedTuple

from ..errors import ValueRefused, unknown_name

#: One code of 8 bits.
CODE = 1 / 255


class Compression(NamedTuple):
    """A way to pack frames: as OpenImageIO names it, as people do, and what it costs.

    ``mean``: largest honest mean difference of the colour where it is lossy; else 0.
    """

    name: str
    label: str
    mean: float = 0.0


@dataclass(frozen=True, slots=True)
class Codec:
    """A codec in its container, or a kind of frames.

    Attributes
    ----------
    kind : one movie, or one file a frame.
    ending : the file's ending with its dot.
    alpha : whether it holds one.
    bits : of a sample; ``alpha_bits``: of the alpha where it has fewer, 0 where it has as many.
    clock : seconds that the file's times are whole numbers of; None where its rate is exact.
    floating : holds light above 1 and below 0; the others hold code values 0..1.
    encoder, pixel_format, container, options, muxing : for movies, as FFmpeg names them; ``options`` are
        the encoder's, ``muxing`` the container's.
    sample : ``uint8``, ``uint16``, ``half`` or ``float``, for frames.
    compression : of frames, as OpenImageIO names it; ``compressions``: all that may be chosen.
    least, most : width and height below and above which it refuses a picture.
    header : what else OpenImageIO is told of frames, such as their bits.
    colour_tolerance, alpha_tolerance : largest honest mean (colour) and largest (alpha) difference between a
        frame and what is read back, in code values 0..1: twice those measured over a round trip of noise.
    colour_most : largest honest difference of a single colour sample of a lossy codec, as it is seen; 0 where
        edges may be off by anything.
    """

    name: str
    title: str
    help: str
    kind: Literal["movie", "frames"]
    ending: str
    alpha: bool
    bits: int
    alpha_bits: int = 0
    clock: Fraction | None = None
    floating: bool = False
    encoder: str = ""
    pixel_format: str = ""
    container: str = ""
    options: dict[str, str] = field(default_factory=dict)
    muxing: dict[str, str] = field(default_factory=dict)
    sample: str = ""
    compression: str = ""
    compressions: tuple[Compression, ...] = ()
    least: tuple[int, int] = (1, 1)
    most: tuple[int, int] | None = None
    header: dict[str, str | int] = field(default_factory=dict)
    colour_tolerance: float = 0.0
    alpha_tolerance: float = 0.0
    colour_most: float = 0.0

    @property
    def lossless(self) -> bool:
        """Whether every code value comes back as it was written, but for its rounding."""
        return self.colour_tolerance <= (1e-3 if self.floating else 0.61 / ((1 << self.bits) - 1))

    def packed(self, name: str) -> Codec:
        """The same with another compression; an empty name leaves its own.

        Raises
        ------
        NameUnknown : it has no such compression.
        """
        if not name or name == self.compression:
            return self
        found = next((c for c in self.compressions if c.name == name), None)
        if found is None:
            raise unknown_name(
                f"compression of {self.title}",
                name,
                [c.name for c in self.compressions] or ["none to choose"],
            )
        mean = max(self.colour_tolerance, found.mean)
        return replace(self, compression=name, colour_tolerance=mean)

    def refuse_size(self, width: int, height: int, name: str) -> None:
        """`ValueRefused` for a size that it cannot hold; ``name``: of what would be written."""
        least_width, least_height = self.least
        if width < least_width or height < least_height:
            raise ValueRefused(
                f"{name} would be {width} x {height}; {self.title} begins at {least_width} x {least_height}.",
                advice="Choose another format, or a larger size.", where=name,
            )  # fmt: skip
        if self.most and (width > self.most[0] or height > self.most[1]):
            raise ValueRefused(
                f"{name} would be {width} x {height}; {self.title} ends at {self.most[0]} x {self.most[1]}.",
                advice="Choose another format, or a smaller size.", where=name,
            )  # fmt: skip
        if "420" in self.pixel_format and (width % 2 or height % 2):
            raise ValueRefused(
                f"{name} would be {width} x {height}; a movie whose colour has half "
                "the size (4:2:0) needs an even width and height.",
                advice="Choose another format, or crop or pad the picture by a pixel.", where=name,
            )  # fmt: skip
