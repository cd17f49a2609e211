"""The reading: what the stored RGB and alpha of an element mean."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

CodeValue = Annotated[float, Field(ge=0, le=1)]


class Reading(BaseModel):
    """How the stored code values of an element are to be read.

    ``premultiplied`` means that RGB was multiplied by alpha over the matte colour M:
    ``C = F*a + M*(1-a)`` (ISO 32000-1:2008, 11.6.5.3, soft-mask /Matte [ISO32000]; M is (0, 0, 0)
    for the associated alpha of OpenEXR and Porter & Duff).
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    alpha: Literal["straight", "premultiplied", "none"] = Field(
        "straight",
        title="Alpha",
        description="straight: RGB is the surface colour; premultiplied: RGB was multiplied by "
        "alpha over the matte colour; none: alpha is ignored and the picture is opaque.",
    )
    matte: tuple[CodeValue, CodeValue, CodeValue] = Field(
        (0.0, 0.0, 0.0),
        title="Matte colour",
        description="Colour that a premultiplied picture was multiplied over, in stored code values.",
    )
    inverted: bool = Field(
        False, title="Inverted", description="The file's alpha is 1 where the picture is clear."
    )
    multiplied: Literal["linear", "encoded"] = Field(
        "linear",
        title="Multiplied",
        description="Whether alpha was multiplied into linear light before display encoding, or "
        "into the display-encoded code values.",
    )

    def words(self) -> str:
        """The reading in a few words, as shown on a card.

        >>> Reading(alpha="premultiplied", inverted=True).words()
        'premultiplied over black, alpha inverted'
        """
        if self.alpha == "none":
            return "alpha ignored"
        text: str = self.alpha
        if self.alpha == "premultiplied":
            text += f" over {colour_words(self.matte)}"
            if self.multiplied == "encoded":
                text += " in encoded values"
        return text + (", alpha inverted" if self.inverted else "")


def colour_words(matte: tuple[float, float, float]) -> str:
    """A colour by name, or by its 8-bit code values."""
    if matte == (0, 0, 0):
        return "black"
    if matte == (1, 1, 1):
        return "white"
    return "#" + "".join(f"{round(v * 255):02x}" for v in matte)
