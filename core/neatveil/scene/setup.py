"""The render set-up: an open JSON document that says what is rendered and how."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator, model_validator

from ..alpha import Reading
from ..alpha.reading import CodeValue
from ..animation import Animated
from ..comp.loading import read_json
from ..comp.rate import Rate
from ..errors import DocumentRefused
from .passes import PASSES
from .placed import PlacedCamera, PlacedLamp
from .render_tiles import MAX_PIXELS, MAX_SAMPLES
from .samples import PixelFilter
from .upgrades import upgrade_setup

#: Most frames of one render, most layers, and most lamps of its own.
MAX_FRAMES, MAX_LAYERS, MAX_LAMPS = 100_000, 64, 16

Name = Annotated[str, Field(max_length=200)]
_STRICT = ConfigDict(extra="forbid", frozen=True)


class Environment(Animated):
    """The picture all around the scene, by latitude and longitude; its numbers may have keys."""

    picture: Name = Field(description="File of the picture, seen from the set-up's folder, or an element.")
    strength: float = Field(1.0, ge=0, le=1000)
    rotation: float = Field(0.0, ge=-360, le=360, description="Degrees about the vertical.")
    visible: bool = Field(False, description="Whether the camera sees it; its colour is then in the RGB.")


class Shutter(BaseModel):
    """Motion blur: how long the shutter is open."""

    model_config = _STRICT

    angle: float = Field(180.0, gt=0, le=720, description="Degrees; 360 is a whole frame.")
    opens: Literal["around", "at"] = Field(
        "around", description="around: the frame's moment is the middle; at: the shutter opens at it."
    )
    samples: int = Field(8, ge=2, le=64, description="Moments that the samples are shared out over.")


class DepthOfField(BaseModel):
    """A lens of some size: sharp at one distance."""

    model_config = _STRICT

    distance: float = Field(gt=0, description="Along the camera's axis, in scene units.")
    aperture: float = Field(0.02, gt=0, le=100, description="Diameter of the lens, in scene units.")


class GlareSetup(BaseModel):
    """Light that the lens spreads around what is bright: light where alpha is 0."""

    model_config = _STRICT

    strength: float = Field(0.1, ge=0, le=10, description="Share of the bright light.")
    size: float = Field(0.06, gt=0, le=1, description="Of the widest skirt, as a share of the height.")
    over: float = Field(1.0, ge=0, le=1e6, description="Pixels brighter than this give off glare.")


class RenderLayer(BaseModel):
    """Objects that are rendered together, apart from others."""

    model_config = _STRICT

    name: str = Field(min_length=1, max_length=60, pattern=r"^[\w][\w .-]*$")
    objects: tuple[Name, ...] = Field(description="Names of nodes; the nodes below them belong to it.")
    render: bool = True


class RenderOutput(BaseModel):
    """What files are written."""

    model_config = _STRICT

    format: Literal["exr", "exr-each", "png8", "png16", "tiff8", "tiff16"] = Field(
        "exr",
        description="exr: one file a frame with all channels; exr-each: one sequence a pass; the others "
        "hold codes of 0 to 1, one sequence a pass.",
    )
    compression: Literal["none", "zip", "piz", "zips"] = "zip"
    dither: bool = Field(True, description="8 bits: rounded by lot, so that no bands appear.")
    alpha_with_passes: bool = Field(
        False,
        description="One sequence a pass: each lighting pass carries the alpha as well, as renderers often "
        "do. Laid over each other such passes compound it.",
    )
    depth_range: tuple[float, float] | None = Field(
        None, description="Distances that are 0 and 1 where depth is written as codes."
    )


class RenderDraft(BaseModel):
    """What a draft does without."""

    model_config = _STRICT

    samples: int = Field(2, ge=1, le=MAX_SAMPLES)
    indirect: bool = False
    shrink: Literal[1, 2, 4, 8] = Field(2, description="The picture's size is divided by it.")


class RenderSetup(BaseModel):
    """What to render. Frame ``first`` is the scene's moment 0."""

    model_config = _STRICT

    neatveil_scene: Literal[2] = Field(2, description="Version of this document.")
    name: str = Field("", max_length=200, description="Name of the files; the scene's where it is empty.")
    camera: str | None = Field(None, description="Name of the camera's node; the first one where left out.")
    placed_camera: PlacedCamera | None = Field(
        None, description="A camera of the set-up's own, in place of the scene's."
    )
    lamps: tuple[PlacedLamp, ...] = Field(
        (), max_length=MAX_LAMPS, description="Lamps of the set-up's own, beside the scene's."
    )
    first: int = Field(1, ge=-1_000_000, le=1_000_000)
    last: int = Field(1, ge=-1_000_000, le=1_000_000)
    rate: Rate = Field(description="Exact frame rate in frames per second, such as 25 or 24000/1001.")
    width: int = Field(960, ge=1, le=32768)
    height: int = Field(540, ge=1, le=32768)
    use: Literal["final", "draft"] = Field("final", description="Which of the two presets is rendered.")
    draft: RenderDraft = RenderDraft()
    samples: int = Field(16, ge=1, le=MAX_SAMPLES, description="Rays a pixel.")
    noise: float = Field(
        0.0, ge=0, le=1,
        description="Error on the screen's scale of 0 to 1 below which no more samples are taken; 0: all.",
    )  # fmt: skip
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
    lights: bool = Field(True, description="Whether the scene's lights and the environment shine.")
    indirect: bool = Field(True, description="Whether surfaces light each other.")
    bounces: int = Field(3, ge=1, le=16, description="Surfaces that indirect light goes on from, at most.")
    firefly_clamp: float = Field(
        10.0, gt=0, le=1e6, description="The most light one indirect ray may bring: prevents bright specks."
    )
    environment: Environment | None = None
    refraction_in_alpha: bool = Field(
        True, description="Whether what is behind shows through glass in the alpha; else glass is opaque."
    )
    shutter: Shutter | None = None
    depth_of_field: DepthOfField | None = None
    glare: GlareSetup | None = None
    numbers: dict[Name, int] = Field({}, description="Numbers of objects, by the names of their nodes.")
    most_motion: float = Field(
        64.0, gt=0, le=1e6, description="Pixels a frame that the codes of motion_encoded reach to."
    )
    shadow_catchers: tuple[Name, ...] = Field(
        (), description="Objects that are not seen, only shadows on them."
    )
    shadows: Literal["separate-pass", "in-alpha"] = Field(
        "separate-pass",
        description="Caught shadows: in the pass caught alone, or as black in the beauty's alpha too.",
    )
    layers: tuple[RenderLayer, ...] = Field(
        (), max_length=MAX_LAYERS, description="From the nearest to the farthest."
    )
    holdout: Literal["nearer", "whole"] = Field(
        "nearer", description="Layers: what others hide is cut out, sample by sample, or each is whole."
    )
    flattened: bool = Field(False, description="Layers: all that are rendered in one picture.")
    plate: Name | None = Field(None, description="What the true composite stands in front of.")
    output: RenderOutput = RenderOutput()

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
        if self.width * self.height > MAX_PIXELS:
            raise ValueError(f"{self.width} x {self.height} has more than {MAX_PIXELS} pixels")
        self._check_alpha()
        self._check_layers()
        self._check_codes()
        return self

    def _check_alpha(self) -> None:
        seen = self.environment is not None and self.environment.visible
        if any(self.over) and (self.alpha == "straight" or seen):
            why = "with the environment in it" if seen else "that is straight"
            raise ValueError(f"a beauty {why} lies over no colour: leave `over` out")

    def _check_layers(self) -> None:
        names = [x.name for x in self.layers]
        twice = sorted({n for n in names if names.count(n) > 1})
        if twice:
            raise ValueError(f"two layers are called {', '.join(twice)}")
        objects = [o for x in self.layers for o in x.objects]
        twice = sorted({o for o in objects if objects.count(o) > 1})
        if twice:
            raise ValueError(f"{', '.join(twice)}: an object can be in one layer only")

    def _check_codes(self) -> None:
        if self.output.format.startswith("exr"):
            return
        no = [p for p in self.passes if PASSES[p].coded == "no"]
        if no:
            raise ValueError(
                f"{', '.join(no)} cannot be held by codes of 0 to 1: write OpenEXR"
                + (", or motion_encoded instead" if "motion" in no else "")
            )
        deep = [p for p in self.passes if PASSES[p].coded == "range"]
        near, far = self.output.depth_range or (0, 0)
        if deep and not far > near:
            raise ValueError(
                f"{', '.join(deep)} as codes needs `depth_range`: the distances that are 0 and 1"
            )

    @property
    def reading(self) -> Reading:
        """How the beauty is to be read."""
        if self.environment is not None and self.environment.visible:
            # the picture around is in the RGB: no single colour could be taken out of it
            return Reading(alpha="straight")
        return Reading(alpha=self.alpha, matte=self.over, multiplied="linear")

    def effective(self) -> RenderSetup:
        """As it is rendered: for a draft with fewer samples, smaller, without indirect light."""
        if self.use == "final":
            return self
        shrink = self.draft.shrink
        changes = {
            "use": "final", "samples": self.draft.samples, "noise": 0.0,
            "indirect": self.indirect and self.draft.indirect,
            "width": max(1, self.width // shrink), "height": max(1, self.height // shrink),
            "most_motion": self.most_motion / shrink,
        }  # fmt: skip
        return self.model_copy(update=changes)


def parse_setup(data: Any, where: str = "") -> RenderSetup:
    """A set-up from JSON data of this version or an older one; `DocumentRefused` names the wrong field."""
    try:
        return RenderSetup.model_validate(upgrade_setup(data))
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
