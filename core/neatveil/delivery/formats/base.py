"""What every format of delivery states."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...alpha import Reading
from ...codecs import Codec

Contents = Literal["rgba", "rgb", "alpha", "apart"]
Dither = Literal["none", "stable", "moving"]
Light = Literal["lost", "raised"]
#: Whom a delivery is for: a player is one that ignores alpha.
Purpose = Literal["editor", "compositor", "viewing", "player"]


@dataclass(frozen=True, slots=True)
class DeliveryFormat:
    """A codec with the meaning of what is written in it.

    Attributes
    ----------
    reading : how the written file is to be read; also how it is written.
    encoding : colour encoding of the written code values.
    purpose : whom it is for.
    contents : RGB and alpha, RGB alone, or alpha alone as grey.
    dither : noise before codes are rounded: none, the same in every frame, or another in each.
    light : what becomes of light where the alpha is 0 in a straight file: it is lost, or the alpha is raised
        as far as holds it.
    past_edge : pixels that straight colour runs on where the alpha is 0.
    tiles, multipart : of OpenEXR: tiles in place of scan lines; each layer in a part of its own.
    colour_tolerance, alpha_tolerance : largest honest difference between what was meant and what is read
        back, in code values 0..1; ``relative`` makes the colour's relative to the value. Of a lossy codec
        the colour's holds for a frame's mean.
    """

    name: str
    title: str
    help: str
    codec: Codec
    reading: Reading
    encoding: str
    contents: Contents = "rgba"
    past_edge: int = 8
    dither: Dither = "none"
    light: Light = "lost"
    colour_tolerance: float = 0.0
    alpha_tolerance: float = 0.0
    relative: bool = False
    purpose: Purpose = "editor"
    tiles: bool = False
    multipart: bool = False

    @property
    def kind(self) -> Literal["movie", "frames"]:
        """One movie, or one file a frame."""
        return self.codec.kind

    @property
    def ending(self) -> str:
        """The file's ending with its dot."""
        return self.codec.ending

    @property
    def holds_alpha(self) -> bool:
        """Whether coverage is in the file at all."""
        return self.contents != "rgb"

    @property
    def holds_layers(self) -> bool:
        """Whether other layers may be in the file beside the picture: OpenEXR alone does that here."""
        return self.codec.ending == ".exr" and self.contents == "rgba"
