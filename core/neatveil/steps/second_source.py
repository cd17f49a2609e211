"""Steps that take a second picture: another layer, as it is after its own steps, or an element."""

from __future__ import annotations

from abc import abstractmethod
from typing import Any, Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import RGBA, Box, PremultipliedPicture, plane_over
from .base import Fetch, FieldStep, Pixel
from .extra_channels import whole_picture

Fit = Literal["stretch", "centre", "placed"]


def fit_field(default: Fit) -> Any:
    """The parameter that says where the second picture lies."""
    return Field(
        default, title="lies",
        description="The second is stretched to the first's frame, laid on its centre, or seen where it lies "
        "in the comp.",
        json_schema_extra={
            "labels": {"stretch": "Stretched", "centre": "Centred", "placed": "As in the comp"}
        },
    )  # fmt: skip


class SecondStep(FieldStep):
    """``second``: ``layer:`` and a layer's id, or an element's key; empty for none."""

    second: str = Field(
        "", pattern=r"^((layer:)?[A-Za-z0-9_-]{1,64})?$", title="second",
        description="Another layer after its own steps, or an element.", json_schema_extra={"unit": "source"},
    )  # fmt: skip


class SecondSourceStep(SecondStep):
    """One that lays the second picture over its own."""

    fit: Fit = fit_field("stretch")

    @abstractmethod
    def both(
        self, picture: PremultipliedPicture, other: PremultipliedPicture | None, level: int
    ) -> PremultipliedPicture:
        """The step on its layer's picture and the second one, which has the same windows."""

    def of_transparent_black(self) -> Pixel:
        planes = {n: np.zeros((1, 1), np.float32) for n in (*RGBA, *self.planes(False))}
        made = self.both(PremultipliedPicture(planes), None, 0)
        r, g, b, a = (float(made[n][0, 0]) for n in RGBA)
        return (r, g, b, a)

    def planes(self, second: bool) -> tuple[str, ...]:
        """Extra planes that are asked of the second source, or of the layer's own element."""
        return ()

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        return self.both(picture, None, level)

    def apply_with_sources(
        self, picture: PremultipliedPicture, level: int, frame: int, fetch: Fetch | None
    ) -> PremultipliedPicture:
        if fetch is None:
            return self.whole(picture, level, frame)
        full = whole_picture(picture) if self.second or self.planes(False) else picture
        # what steps before have changed is taken from them
        if extra := tuple(n for n in self.planes(False) if n not in full.planes):
            own = fit_to(fetch("", extra), full, "stretch")
            full = full.with_planes({**full.planes, **{n: own[n] for n in extra}})
        other = self._second(full, fetch) if self.second else None
        done = self.both(full, other, level)
        return done.with_planes({n: done[n] for n in RGBA})

    def _second(self, own: PremultipliedPicture, fetch: Fetch) -> PremultipliedPicture:
        if self.fit == "placed":
            return fit_to(fetch.placed(self.second, self.planes(True), own.display_window), own, "centre")
        return fit_to(fetch(self.second, self.planes(True)), own, self.fit)


def fit_to(other: PremultipliedPicture, picture: PremultipliedPicture, fit: str) -> PremultipliedPicture:
    """The other picture over the same windows, all its planes."""
    window = picture.display_window
    area = picture.data_window
    frame = other.display_window
    planes = {n: plane_over(p, other.data_window, frame) for n, p in other.planes.items()}
    if (frame.width, frame.height) != (window.width, window.height):
        if fit == "stretch":
            how = cv2.INTER_AREA if frame.width > window.width else cv2.INTER_LINEAR
            planes = {
                n: np.asarray(cv2.resize(p, (window.width, window.height), interpolation=how), np.float32)
                for n, p in planes.items()
            }
        else:
            dx, dy = (window.width - frame.width) // 2, (window.height - frame.height) // 2
            laid = Box.sized(frame.width, frame.height).shift(window.x0 + dx, window.y0 + dy)
            planes = {n: plane_over(p, laid, window) for n, p in planes.items()}
    return PremultipliedPicture({n: plane_over(p, window, area) for n, p in planes.items()}, area, window)
