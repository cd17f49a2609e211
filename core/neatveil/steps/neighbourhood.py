"""Field steps that make each value from those near it, plane by plane."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Mapping, Sequence
from typing import Literal

import cv2
import numpy as np
from pydantic import Field

from ..alpha.extend import extended_colour
from ..numeric.pool import for_each
from ..numeric.threads import workers
from ..picture import RGBA, Box, Plane, PremultipliedPicture, lay_over, new_planes
from .base import FieldStep

#: An alpha of no more than this is what rounding and filters leave: the colour under it is not to be trusted.
TRACE = 1e-5


class NeighbourhoodStep(FieldStep):
    """One function of a plane with a margin around it."""

    border: Literal["continue", "clear"] = Field(
        "continue", title="beyond the frame",
        description="What lies beyond the frame's border: its last pixels again, or nothing.",
        json_schema_extra={"labels": {"continue": "Continued", "clear": "Nothing"}},
    )  # fmt: skip

    @abstractmethod
    def reach(self, level: int) -> int:
        """How many pixels a value may travel at this level."""

    @abstractmethod
    def plane(self, plane: Plane, level: int, border: int) -> Plane:
        """The step on a plane, a new one. ``border``: OpenCV's way of going on beyond its edge."""

    def changes_nothing(self, level: int) -> bool:
        return self.reach(level) == 0

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        border = cv2.BORDER_REPLICATE if self.border == "continue" else cv2.BORDER_CONSTANT
        frame_box, window = picture.display_window, picture.data_window
        if window == frame_box.around(window):  # it fills its frame: the library does its border
            area, before = window, dict(picture.planes)
            changed = self._changed(before, level, border)
        else:
            reach = self.reach(level)
            given, area, inner = with_margin(picture, reach, repeat=self.border == "continue")
            wide = self._changed(given, level, border)
            before, changed = ({n: p[inner] for n, p in some.items()} for some in (given, wide))
        if self.channels == "a":
            corner = area.x0 - frame_box.x0, area.y0 - frame_box.y0
            changed = with_alpha(before, changed["A"], corner)
        if area == window:
            return picture.with_planes({**picture.planes, **changed})
        whole = new_planes(RGBA, area.height, area.width)
        for_each(RGBA, lambda n: np.copyto(whole[n], changed.get(n, before[n])))
        return PremultipliedPicture(whole, area, frame_box, data_planes=picture.data_planes)

    def _changed(self, planes: dict[str, Plane], level: int, border: int) -> dict[str, Plane]:
        """The chosen channels after the step."""
        wanted = {n: planes[n] for n in RGBA if n.lower() in self.channels}
        return each_plane(wanted, self.reach(level), lambda p: self.plane(p, level, border))


def each_plane(planes: Mapping[str, Plane], reach: int, work: Callable[[Plane], Plane]) -> dict[str, Plane]:
    """``work`` on every plane, in parallel.

    Where a plane a thread would leave threads idle they are cut into bands of rows, with the ``reach`` rows
    beside that a value may come from, so that a band gives what the whole plane would.
    """
    height, width = next(iter(planes.values())).shape
    even = len(planes) % workers() == 0
    bands = 1 if even or height < 4 * reach * workers() else workers()
    found = {} if bands == 1 else new_planes(planes, height, width)

    def done(item: tuple[str, int]) -> None:
        name, band = item
        if bands == 1:
            found[name] = work(planes[name])
            return
        y0, y1 = height * band // bands, height * (band + 1) // bands
        top, end = max(0, y0 - reach), min(height, y1 + reach)
        found[name][y0:y1] = work(planes[name][top:end])[y0 - top : y1 - top]

    for_each([(n, b) for n in planes for b in range(bands)], done)
    return found


def with_alpha(planes: dict[str, Plane], alpha: Plane, corner: tuple[int, int]) -> dict[str, Plane]:
    """The same surface under another alpha: its colour goes on past the old edge; light stays as it is.

    ``corner``: as of `extended_colour`.
    """
    old = planes["A"]
    colour = extended_colour(planes, TRACE, corner)
    found = {"A": alpha}
    for n in ("R", "G", "B"):
        light = np.where(old > 0, np.float32(0), planes[n])
        found[n] = colour[n] * alpha + light
    return found


def with_margin(
    picture: PremultipliedPicture, reach: int, *, repeat: bool, names: Sequence[str] = RGBA
) -> tuple[dict[str, Plane], Box, tuple[slice, slice]]:
    """Planes with a margin of ``reach`` on every side; the area that the result covers; where it lies.

    The area is what the picture's values can travel to within its frame. Beyond the frame its last pixels
    are repeated, or there is nothing.
    """
    frame = picture.display_window.around(picture.data_window)
    d = picture.data_window
    area = Box(d.x0 - reach, d.y0 - reach, d.x1 + reach, d.y1 + reach).intersect(frame)
    outer = Box(area.x0 - reach, area.y0 - reach, area.x1 + reach, area.y1 + reach)
    seen = outer.intersect(frame)
    planes = new_planes(names, outer.height, outer.width)

    def lay(name: str) -> None:
        lay_over(picture[name], d, planes[name], outer)
        if repeat:
            _repeat_border(planes[name], seen.shift(-outer.x0, -outer.y0))

    for_each(names, lay)
    inner = (slice(reach, reach + area.height), slice(reach, reach + area.width))
    return planes, area, inner


def _repeat_border(plane: Plane, seen: Box) -> None:
    """Beyond a part of the plane its last pixels again."""
    rows = plane[seen.y0 : seen.y1]
    rows[:, : seen.x0] = rows[:, seen.x0 : seen.x0 + 1]
    rows[:, seen.x1 :] = rows[:, seen.x1 - 1 : seen.x1]
    plane[: seen.y0] = plane[seen.y0]
    plane[seen.y1 :] = plane[seen.y1 - 1]
