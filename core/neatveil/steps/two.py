"""Steps that take a second picture: another layer, as it is after its own steps, or an element."""

from __future__ import annotations

from abc import abstractmethod
from typing import Literal

import cv2
import numpy as np
from pydantic import Field

from ..picture import RGBA, Box, Plane, PremultipliedPicture, cut, whole_frame
from .base import Fetch, FieldStep


class TwoStep(FieldStep):
    """``second``: ``layer:`` and a layer's id, or an element's key; empty for none."""

    second: str = Field(
        "", pattern=r"^((layer:)?[A-Za-z0-9_-]{1,64})?$", title="second",
        description="Another layer after its own steps, or an element.", json_schema_extra={"unit": "source"},
    )  # fmt: skip
    fit: Literal["stretch", "centre"] = Field(
        "stretch", title="sizes",
        description="Where they differ the second is stretched to the first's frame, or laid on its centre.",
        json_schema_extra={"labels": {"stretch": "Stretched", "centre": "Centred"}},
    )  # fmt: skip

    @abstractmethod
    def both(
        self, picture: PremultipliedPicture, other: PremultipliedPicture | None, level: int
    ) -> PremultipliedPicture:
        """The step on its layer's picture and the second one, which has the same windows."""

    def planes(self, second: bool) -> tuple[str, ...]:
        """Further planes that are asked of the second source, or of the layer's own element."""
        return ()

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        return self.both(picture, None, level)

    def fetched(self, picture: PremultipliedPicture, level: int, fetch: Fetch) -> PremultipliedPicture:
        """The step with what it names."""
        full = whole_frame(picture) if self.second or self.planes(False) else picture
        if extra := self.planes(False):
            own = fitted(fetch("", extra), full, "stretch")
            full = full.with_planes({**full.planes, **{n: own[n] for n in extra}})
        other = fitted(fetch(self.second, self.planes(True)), full, self.fit) if self.second else None
        done = self.both(full, other, level)
        return done.with_planes({n: done[n] for n in RGBA})


def fitted(other: PremultipliedPicture, picture: PremultipliedPicture, fit: str) -> PremultipliedPicture:
    """The other picture over the same windows, all its planes."""
    window = picture.display_window
    area = picture.data_window
    planes = _spread(other)
    size = (other.display_window.width, other.display_window.height)
    if size != (window.width, window.height):
        if fit == "stretch":
            smaller = size[0] > window.width
            how = cv2.INTER_AREA if smaller else cv2.INTER_LINEAR
            planes = {
                n: np.asarray(cv2.resize(p, (window.width, window.height), interpolation=how), np.float32)
                for n, p in planes.items()
            }
        else:
            planes = _centred(planes, size, window)
    if area == window:
        return PremultipliedPicture(planes, area, window)
    whole = PremultipliedPicture(planes, window, window)
    names = {n: p for n, p in whole.planes.items() if n not in RGBA}
    part = cut(whole, area)
    y, x = area.y0 - window.y0, area.x0 - window.x0
    rest = {n: np.ascontiguousarray(p[y : y + area.height, x : x + area.width]) for n, p in names.items()}
    return part.with_planes({**part.planes, **rest})


def _spread(picture: PremultipliedPicture) -> dict[str, Plane]:
    """All planes over the display window."""
    f, d = picture.display_window, picture.data_window
    if f == d:
        return dict(picture.planes)
    found: dict[str, Plane] = {}
    both = d.intersect(f)
    for n, p in picture.planes.items():
        plane = np.zeros((f.height, f.width), np.float32)
        if not both.empty:
            plane[both.y0 - f.y0 : both.y1 - f.y0, both.x0 - f.x0 : both.x1 - f.x0] = p[
                both.y0 - d.y0 : both.y1 - d.y0, both.x0 - d.x0 : both.x1 - d.x0
            ]
        found[n] = plane
    return found


def _centred(planes: dict[str, Plane], size: tuple[int, int], window: Box) -> dict[str, Plane]:
    dx, dy = (window.width - size[0]) // 2, (window.height - size[1]) // 2
    there = Box(dx, dy, dx + size[0], dy + size[1]).intersect(Box.sized(window.width, window.height))
    found: dict[str, Plane] = {}
    for n, p in planes.items():
        plane = np.zeros((window.height, window.width), np.float32)
        plane[there.y0 : there.y1, there.x0 : there.x1] = p[
            there.y0 - dy : there.y1 - dy, there.x0 - dx : there.x1 - dx
        ]
        found[n] = plane
    return found
