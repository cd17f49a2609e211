"""What everything that is made here has in common: a canvas, and colours laid on it through coverage."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import ceil, floor
from typing import Annotated, Any, ClassVar, NamedTuple, Self

import numpy as np
from pydantic import Field, model_validator

from ..animation import Animated
from ..drawn.outline import Points
from ..picture import RGBA, Box, Plane, PremultipliedPicture, new_planes

#: One of three numbers of scene-linear light.
Light = Annotated[float, Field(ge=-1000, le=1000)]
Colour = tuple[Light, Light, Light]
#: Most pixels of a canvas, halved or enlarged.
MOST_PIXELS = 1 << 25
#: Pixels drawn around an outline, in which its edge runs out.
EDGE = 1
#: Where nothing is drawn: a clear pixel.
NOTHING = Box(0, 0, 1, 1)


def colour_field(title: str, *, default: Colour = (1.0, 1.0, 1.0), help: str = "") -> Any:
    """A colour of linear light."""
    return Field(
        default,
        title=title,
        description=help or "In linear light.",
        json_schema_extra={"unit": "colour", "slider": [0, 1]},
    )


def share_field(title: str, *, default: float = 1.0, help: str = "") -> Any:
    """A share from 0 to 1."""
    return Field(default, ge=0, le=1, title=title, description=help, json_schema_extra={"unit": "%"})


@dataclass(frozen=True)
class Canvas:
    """Where something is drawn: ``width`` and ``height`` of the whole, and the level that is asked for.

    Pixels of level n are 2^n wide; below 0 they are smaller than the comp's.
    """

    width: int
    height: int
    level: int

    @property
    def share(self) -> float:
        """Pixels of the level that one of the whole is long."""
        return 2.0**-self.level

    @cached_property
    def frame(self) -> Box:
        return Box.sized(ceil(self.width * self.share), ceil(self.height * self.share))

    @property
    def middle(self) -> tuple[float, float]:
        """In pixels of the level, from the corner."""
        return self.width * self.share / 2, self.height * self.share / 2

    def box_around(self, outlines: Sequence[Points], reach: float) -> Box:
        """Pixels of the frame within ``reach`` of points, both in pixels of the level."""
        if not outlines:
            return NOTHING
        found = bounds_of(outlines, reach).intersect(self.frame)
        return NOTHING if found.empty else found


def bounds_of(outlines: Sequence[Points], reach: float) -> Box:
    """Pixels within ``reach`` of points, of which there is one at least."""
    points = np.concatenate(outlines)
    x, y = points[:, 0], points[:, 1]  # one by one: pairs take ten times as long
    low, high = (x.min() - reach, y.min() - reach), (x.max() + reach, y.max() + reach)
    return Box(floor(low[0]), floor(low[1]), ceil(high[0]), ceil(high[1]))


class Laid(NamedTuple):
    """A colour of linear light, its alpha, and what of a box's pixels it covers: ``(H, W)``, or all alike."""

    colour: Colour
    alpha: float
    coverage: Plane | float


class Made(Animated):
    """Parameters of what is made here. Each has a title, range, unit and help for its controls.

    Class attributes: ``title``, ``help`` and ``rank``, its place, for the list; ``fresh``: what a new one on
    the desk starts with, where that is not the default.
    """

    title: ClassVar[str] = ""
    help: ClassVar[str] = ""
    fresh: ClassVar[dict[str, Any]] = {}
    rank: ClassVar[int] = 50

    kind: str
    canvas_width: int = Field(
        0, ge=0, le=16384, title="canvas width", description="0: as wide as the comp.",
        json_schema_extra={"unit": "px", "slider": [0, 4096], "still": True},
    )  # fmt: skip
    canvas_height: int = Field(
        0, ge=0, le=16384, title="canvas height", description="0: as high as the comp.",
        json_schema_extra={"unit": "px", "slider": [0, 4096], "still": True},
    )  # fmt: skip

    @abstractmethod
    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        """Scene-linear light, premultiplied over black, as it is seen on the canvas's pixels."""

    @abstractmethod
    def words(self) -> str:
        """What it is, in a few words."""

    @model_validator(mode="after")
    def _canvas_fits(self) -> Self:
        if moving := [n for n in ("canvas_width", "canvas_height") if n in self.keys]:
            raise ValueError(f"{moving[0]} has no keys: a canvas keeps its size")
        if self.canvas_width * self.canvas_height > MOST_PIXELS:
            raise ValueError(
                f"a canvas of {self.canvas_width} x {self.canvas_height} has more than {MOST_PIXELS:,} "
                "pixels; make it smaller and scale the layer: what is made here stays sharp"
            )
        return self

    def canvas_size(self, comp: tuple[int, int]) -> tuple[int, int]:
        """Width and height of its canvas in a comp of a size."""
        return self.canvas_width or comp[0], self.canvas_height or comp[1]

    def whole_canvas_size(self, comp: tuple[int, int]) -> tuple[int, int]:
        """As `canvas_size`, and larger where what is drawn reaches beyond: by as much on both sides.

        The middle keeps its place, so that nothing moves.
        """
        width, height = self.canvas_size(comp)
        reach = self.reach(Canvas(width, height, 0))
        if reach.empty:
            return width, height
        across, down = max(0, -reach.x0, reach.x1 - width), max(0, -reach.y0, reach.y1 - height)
        return width + 2 * across, height + 2 * down

    def reach(self, canvas: Canvas) -> Box:
        """Pixels of the level that it may cover, those beyond the canvas too."""
        return canvas.frame


def painted(canvas: Canvas, box: Box, layers: Sequence[Laid]) -> PremultipliedPicture:
    """Colours laid over one another, the first at the back, on a box of the canvas's frame."""
    planes = new_planes(RGBA, box.height, box.width, zero=not layers)
    for i, layer in enumerate(layers):
        share = np.float32(layer.alpha) * layer.coverage
        left = np.float32(1) - share
        for name, light in zip(RGBA, (*layer.colour, 1.0), strict=True):
            if i == 0:
                planes[name][:] = share * np.float32(light)
            else:
                planes[name] *= left
                planes[name] += share * np.float32(light)
    return PremultipliedPicture(planes, box, canvas.frame)
