"""The render set-up: an open JSON document that says what is rendered and how."""

from __future__ import annotations

from pathlib import Path
from typing import Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator, model_validator

from ..alpha import Reading
from ..alpha.reading import CodeValue
from ..comp.document import read_json
from ..comp.rate import Rate
from ..errors import DocumentRefused
from .film import MAX_PIXELS, MAX_SAMPLES
from .passes import PASSES
from .samples import PixelFilter

#: Most frames of one render.
MAX_FRAMES = 100_000


class RenderSetup(BaseModel):
    """What to render. Frame ``first`` is the scene's moment 0."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    neatveil_scene: Literal[1] = Field(1, description="Version of this document.")
    name: str = Field("", max_length=200, description="Name of the files; the scene's where it is empty.")
    camera: str | None = Field(None, description="Name of the camera's node; the first one where left out.")
    first: int = Field(1, ge=-1_000_000, le=1_000_000)
    last: int = Field(1, ge=-1_000_000, le=1_000_000)
    rate: Rate = Field(description="Exact frames a second, such as 25 or 24000/1001.")
    width: int = Field(960, ge=1, le=32768)
    height: int = Field(540, ge=1, le=32768)
    samples: int = Field(16, ge=1, le=MAX_SAMPLES, description="Rays a pixel.")
    pixel_filter: PixelFilter = "box"
    seed: int = Field(0, ge=0, le=1 << 30)
    passes: tuple[str, ...] = ("beauty", "alpha")
    alpha: Literal["premultiplied", "straight"] = Field(
        "premultiplied",
        description="How the beauty is stored; the lighting passes stay premultiplied.",
    )
    over: tuple[CodeValue, CodeValue, CodeValue] = Field(
        (0.0, 0.0, 0.0), description="Colour that a premultiplied beauty is laid over, in light."
    )
    numbers: dict[str, int] = Field({}, description="Numbers of objects, by the names of their nodes.")
    compression: Literal["none", "zip", "piz", "zips"] = "zip"

    @field_validator("passes")
    @classmethod
    def _known(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        unknown = [p for p in value if p not in PASSES]
        if unknown or not value:
            raise ValueError(f"{', '.join(unknown) or 'no pass'}: the passes are {', '.join(PASSES)}")
        return value

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.last < self.first:
            raise ValueError(f"the last frame, {self.last}, lies before the first, {self.first}")
        if self.last - self.first >= MAX_FRAMES:
            raise ValueError(
                f"{self.last - self.first + 1} frames; at most {MAX_FRAMES} are rendered at once"
            )
        if self.alpha == "straight" and any(self.over):
            raise ValueError("a straight beauty lies over no colour: leave `over` out")
        if self.width * self.height > MAX_PIXELS:
            raise ValueError(f"{self.width} x {self.height} has more than {MAX_PIXELS} pixels")
        return self

    @property
    def reading(self) -> Reading:
        """How the beauty is to be read."""
        return Reading(alpha=self.alpha, matte=self.over, multiplied="before-encoding")


def parse_setup(data: Any, where: str = "") -> RenderSetup:
    """A set-up from JSON data; `DocumentRefused` that names the field."""
    try:
        return RenderSetup.model_validate(data)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        field = ".".join(map(str, first["loc"])) or "the set-up"
        raise DocumentRefused(f"{where or 'The set-up'}: {field}: {first['msg']}.", where=field) from error


def load_setup(path: Path) -> RenderSetup:
    """A set-up from a file."""
    return parse_setup(read_json(path), path.name)


def setup_schema() -> dict[str, Any]:
    """The JSON schema of the set-up."""
    return RenderSetup.model_json_schema()
