"""What a delivery is to be: which codec, which contents, and what its alpha and colours mean."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ...alpha import Reading
from ...alpha.reading import CodeValue
from ...codecs import Codec, codec_named
from ...colour.encodings import NAME_PATTERN, to_write
from ...errors import CannotHoldAlpha, ValueRefused
from .base import Contents, DeliveryFormat, Dither, Light, Purpose

#: Pixels that straight colour runs on past the edge, unless somebody says otherwise.
PAST_EDGE = 8
_FLOAT_ERROR = 2.0**-21


class DeliveryForm(BaseModel):
    """A delivery in full; everything has a default, and names are those of the tables."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    codec: str = Field("png16", title="File format", description="As transcoding names it.")
    compression: str = Field(
        "", max_length=20, title="Compression",
        description="Of OpenEXR's pixels, such as piz or dwaa; empty is the format's own.",
    )  # fmt: skip
    tiles: bool = Field(
        False, title="In tiles", description="Of 64 x 64 pixels, in place of scan lines; OpenEXR alone."
    )
    multipart: bool = Field(
        False,
        title="Layers in parts",
        description="Each layer of the file in a part of its own; OpenEXR alone.",
    )
    contents: Contents = Field(
        "rgba",
        title="Contents",
        description="RGB and alpha in one file; RGB alone; alpha alone as grey; or both apart, in two.",
    )
    alpha: Literal["straight", "premultiplied"] = Field("straight", title="Alpha")
    matte: tuple[CodeValue, CodeValue, CodeValue] = Field(
        (0.0, 0.0, 0.0), title="Over", description="Colour that is premultiplied over, in code values."
    )
    multiplied: Literal["linear", "encoded"] = Field("linear", title="Multiplied")
    encoding: Annotated[str, AfterValidator(to_write)] = Field(
        "srgb", pattern=NAME_PATTERN, title="Colour encoding", description="An encoding, a space, or a view."
    )
    dither: Dither = Field(
        "none", title="Dither", description="Noise of one code's size, so that gradients show no bands."
    )
    light: Light = Field(
        "lost", title="Light at alpha 0",
        description="Glow where nothing covers: lost in a straight file, or held by raising its alpha there.",
    )  # fmt: skip
    past_edge: int = Field(
        PAST_EDGE, ge=0, le=512, title="Past the edge",
        description="Pixels that straight colour runs on where the alpha is 0.",
    )  # fmt: skip

    def parts(self) -> list[tuple[str, DeliveryForm]]:
        """What is written, each with what is put behind the files' name: two for RGB and alpha apart.

        >>> [name for name, _ in DeliveryForm(contents="apart").parts()]
        ['_rgb', '_alpha']
        """
        if self.contents != "apart":
            return [("", self)]
        return [(f"_{c}", self.model_copy(update={"contents": c})) for c in ("rgb", "alpha")]

    def words(self) -> str:
        """What is in the file, in a few words."""
        if self.contents == "alpha":
            return "alpha alone"
        kind = {"rgba": "", "rgb": "RGB alone, ", "apart": "RGB and alpha apart, "}[self.contents]
        return kind + self.reading.words()

    @property
    def reading(self) -> Reading:
        if self.alpha == "straight":
            return Reading(alpha="straight")
        return Reading(alpha="premultiplied", matte=self.matte, multiplied=self.multiplied)


def format_of(
    form: DeliveryForm, *, name: str = "", title: str = "", help: str = "", purpose: Purpose = "editor"
) -> DeliveryFormat:
    """The format that a form stands for.

    Parameters
    ----------
    form : one file's; of RGB and alpha apart see `DeliveryForm.parts`.
    name, title, help, purpose : of a format that is offered ready; else they follow from the form.

    Returns
    -------
    The format.

    Raises
    ------
    NameUnknown
        There is no such codec, or it has no such compression.
    CannotHoldAlpha
        RGB and alpha were asked for in a file that holds no alpha.
    ValueRefused
        Tiles or parts were asked for in another format than OpenEXR.

    Examples
    --------
    >>> format_of(DeliveryForm(codec="png8", contents="rgb")).title
    'PNG frames, 8 bits, RGB alone, straight'
    """
    codec = codec_named(form.codec).packed(form.compression)
    if form.contents == "rgba" and not codec.alpha:
        raise CannotHoldAlpha(
            f"{codec.title} cannot hold the alpha.",
            advice="Deliver RGB alone over a colour, RGB and alpha apart, or choose a format with alpha.",
            where="form",
        )
    if (form.tiles or form.multipart) and codec.ending != ".exr":
        raise ValueRefused(
            f"{codec.title} has no {'tiles' if form.tiles else 'parts'}.",
            advice="Choose OpenEXR.",
            where="form",
        )
    colour, alpha = _tolerances(codec)
    packed = next((f", {c.label}" for c in codec.compressions if c.name == form.compression), "")
    return DeliveryFormat(
        name=name or form.codec, title=title or f"{codec.title}{packed}, {form.words()}",
        help=help or codec.help,
        codec=codec, reading=form.reading, encoding=form.encoding, contents=form.contents,
        past_edge=form.past_edge, dither=form.dither, light=form.light, colour_tolerance=colour,
        alpha_tolerance=alpha, relative=codec.floating, purpose=purpose, tiles=form.tiles,
        multipart=form.multipart,
    )  # fmt: skip


def form_of(delivery_format: DeliveryFormat) -> DeliveryForm:
    """The form that a format stands for.

    Parameters
    ----------
    delivery_format : one of the ready ones, or of `format_of`.

    Returns
    -------
    The form.

    Examples
    --------
    >>> form_of(format_of(DeliveryForm(codec="exr", encoding="linear"))).codec
    'exr'
    """
    reading = delivery_format.reading
    codec = delivery_format.codec
    own = codec.compression == codec_named(codec.name).compression
    return DeliveryForm(
        codec=codec.name, compression="" if own else codec.compression,
        contents=delivery_format.contents, matte=reading.matte,
        alpha="straight" if reading.alpha == "straight" else "premultiplied", multiplied=reading.multiplied,
        encoding=delivery_format.encoding, past_edge=delivery_format.past_edge,
        dither=delivery_format.dither, light=delivery_format.light,
        tiles=delivery_format.tiles, multipart=delivery_format.multipart,
    )  # fmt: skip


def _tolerances(codec: Codec) -> tuple[float, float]:
    """Largest honest errors; of a lossy codec the colour's in the mean of a frame."""
    if not codec.lossless:
        return codec.colour_tolerance, codec.alpha_tolerance
    if codec.floating:
        # half has 11 significant bits: rounding is within 2^-12 of the value
        relative = 2.0**-11 if codec.sample == "half" else _FLOAT_ERROR
        return relative, relative
    step = 0.51 / ((1 << codec.bits) - 1)  # half a step, and the rounding of float32
    return step, max(step, codec.alpha_tolerance)
