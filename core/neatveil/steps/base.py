"""What every step is: a parameter model beside the function that does it.

Two kinds. A `PointStep` changes each pixel by itself; runs of them are done strip by strip, on straight
colour that is taken out of the alpha once. A `FieldStep` needs a pixel's neighbours or its place, and works
on whole premultiplied pictures.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from typing import Annotated, Any, ClassVar, Literal, Protocol, Self, TypeAlias

import numpy as np
from pydantic import Field

from ..animation import Animated
from ..colour.working import IsLight
from ..mattes import Matte
from ..picture import Box, Plane, PremultipliedPicture
from .through import Through

#: One of three numbers for R, G and B.
Bounded = Annotated[float, Field(ge=-1000, le=1000)]
#: R, G, B, A of one strip as flat arrays.
Flat: TypeAlias = Sequence[Plane]


class Fetch(Protocol):
    """Finds what steps name, at the level that is drawn."""

    def __call__(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        """The picture of that name with the extra planes that are asked for.

        An empty name is the step's own layer: only its element's extra planes.
        """

    def placed(self, name: str, planes: tuple[str, ...], window: Box, /) -> PremultipliedPicture:
        """The same where it lies in the comp, seen from the step's own layer: over that layer's ``window``.

        An element that no layer shows lies centred.
        """

    def unmixed(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        """Extra planes alone, made smaller without mixing what does not belong together, such as places."""

    def angle_of_view(self) -> float | None:
        """Radians from top to bottom of what the comp's camera sees at this frame; None without one."""

    def matte(self, matte: Matte, /) -> Plane:
        """``(H, W)`` of a matte over the display window of the step's own layer."""


Triple = tuple[Bounded, Bounded, Bounded]
#: Of light, in BT.709's primaries.
LightTriple = Annotated[Triple, IsLight()]
Pixel: TypeAlias = tuple[float, float, float, float]
Family = Literal["colour", "edges", "place", "light", "channels"]


class Step(Animated):
    """Parameters of a step. Each field has a title, range, unit and help for the recipe's controls.

    Class attributes: ``title``, ``help``, ``family`` for the list of steps; ``fresh``: what a new one on the
    desk starts with, where that is not the default.
    """

    title: ClassVar[str] = ""
    help: ClassVar[str] = ""
    family: ClassVar[Family] = "colour"
    fresh: ClassVar[dict[str, Any]] = {}

    kind: str
    on: bool = Field(True, title="On", description="Off leaves the picture as it was.")
    mix: float = Field(
        1.0, ge=0, le=1, title="mix", description="0 leaves the picture as it was, 1 is the step in full.",
        json_schema_extra={"unit": "%"},
    )  # fmt: skip
    through: Through = Field(
        default_factory=lambda: Through(), title="through", description="Where it acts, and how much there."
    )

    extra_channel: str = Field(
        "", max_length=200, title="extra channel",
        description="An extra channel of the element, such as depth, that it acts on instead of R, G, B, A. "
        "A patch takes it from there.", json_schema_extra={"unit": "plane"},
    )  # fmt: skip

    @abstractmethod
    def words(self) -> str:
        """What it does to the picture, in a few words."""

    def at(self, frame: float) -> Self:
        now, through = super().at(frame), self.through.at(frame)
        return now if through is self.through else now.model_copy(update={"through": through})

    def of_transparent_black(self) -> Pixel:
        """R, G, B, A (premultiplied) that the step in full makes of a clear black pixel.

        A picture is carried without its empty borders. A step that makes something there is given the whole
        frame.
        """
        return (0.0, 0.0, 0.0, 0.0)

    @property
    def fills(self) -> bool:
        """Whether it may make something where its layer is empty."""
        return self.mix > 0 and any(self.of_transparent_black())

    @property
    def by_rows(self) -> bool:
        """Whether it can be done on a few rows of its layer alone."""
        return not self.extra_channel and self.through.by != "matte"

    @property
    def in_full(self) -> bool:
        """Whether its result is taken as it is, everywhere."""
        return self.mix == 1 and self.through.by == "everywhere"


class PointStep(Step):
    """A change of each pixel by itself, on straight colour."""

    channels: str = Field(
        "rgb", pattern="^[rgba]+$", title="channels", description="Letters of the channels it changes.",
        json_schema_extra={"unit": "channels"},
    )  # fmt: skip
    on_premultiplied: bool = Field(
        False, title="on premultiplied",
        description="Leaves the colour multiplied by alpha while it is changed: edges go wrong. To see what "
        "happens, or for light that is no surface.",
        json_schema_extra={"unit": "footing"},
    )  # fmt: skip

    @abstractmethod
    def values(self, given: Flat, scratch: Flat) -> Flat:
        """The step on one strip: flat, contiguous R, G, B of the surface, and A.

        A plane that changes is written to its place in ``scratch`` and returned from there; one that does
        not is returned as it came. ``given`` is not changed. The two never overlap, so that loops over both
        vectorise.
        """

    def of_transparent_black(self) -> Pixel:
        clear, scratch = np.zeros((4, 1), np.float32), np.empty((4, 1), np.float32)
        r, g, b, a = (float(v[0]) for v in self.values([*clear], [*scratch]))
        # a colour of no surface stays no colour, unless the step takes premultiplied values as they stand
        colour = (r, g, b) if self.on_premultiplied else (0.0, 0.0, 0.0)
        return (*colour, min(max(a, 0.0), 1.0))

    def direct(self, given: Flat, out: Flat) -> Flat | None:
        """The step in full on premultiplied planes in one pass, where it has a loop for that; else None."""
        return None


class FieldStep(Step):
    """A change that needs neighbours or places, on premultiplied pictures.

    ``by_frame``: whether it is another in every frame of the comp.
    """

    by_frame: ClassVar[bool] = False

    @property
    def by_camera(self) -> bool:
        """Whether it goes by the comp's camera."""
        return False

    channels: str = Field(
        "rgba", pattern="^[rgba]+$", title="channels",
        description="Letters of the channels it changes. Alpha alone takes the colour past the edge first.",
        json_schema_extra={"unit": "channels"},
    )  # fmt: skip
    on_straight: bool = Field(
        False, title="on straight",
        description="Takes the colour out of the alpha before: what lies beyond the edge comes in. To see "
        "what happens.",
        json_schema_extra={"unit": "footing"},
    )  # fmt: skip

    @abstractmethod
    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        """The step in full on all channels; lengths are divided by ``2 ** level``."""

    def apply_with_sources(
        self, picture: PremultipliedPicture, level: int, frame: int, fetch: Fetch | None
    ) -> PremultipliedPicture:
        """As `whole`, for steps that name further pictures with them."""
        return self.whole(picture, level, frame)

    def changes_nothing(self, level: int) -> bool:
        """Whether it leaves every picture as it is."""
        return False


def scaled(length: float, level: int) -> float:
    """A length in pixels of the full picture, in pixels of a level."""
    return length * 2.0**-level


def float32s(*values: float) -> tuple[np.float32, ...]:
    return tuple(np.float32(v) for v in values)
