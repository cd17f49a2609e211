"""Extra channels of a layer that a step goes by, such as depth: over the frame, at the step's level."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import Field
from pydantic.config import JsonDict

from ..errors import ValueRefused
from ..picture import RGBA, Plane, PremultipliedPicture, plane_over
from .base import Fetch, FieldStep
from .extra_channels import whole_picture
from .warp import only_channels


def channel_field(default: str, title: str, description: str, empty: str = "") -> str:
    """The parameter that names one; ``empty``: what it is called where it need not be chosen."""
    labels: JsonDict = {"": empty} if empty else {}
    return Field(
        default, min_length=0 if empty else 1, max_length=200, title=title, description=description,
        json_schema_extra={"unit": "plane", "labels": labels},
    )  # fmt: skip


def data_planes(full: PremultipliedPicture, fetch: Fetch, names: Iterable[str]) -> dict[str, Plane]:
    """``(H, W)`` each, over the frame, of the picture or of what the layer shows; smaller ones unmixed.

    ``full``: over its whole frame. `ValueRefused` where they are of another size.
    """
    wanted = [n for n in dict.fromkeys(names) if n]
    found = {n: full[n] for n in wanted if n in full.planes}
    if asked := tuple(n for n in wanted if n not in found):
        data = fetch.unmixed("", asked)
        here, there = full.display_window, data.display_window
        if (here.width, here.height) != (there.width, there.height):
            raise ValueRefused(
                f"The channel {asked[0]} is {there.width} x {there.height}, the picture {here.width} x "
                f"{here.height}.",
                advice="Data has to be of the picture's own size: give the one that was rendered with it.",
            )  # fmt: skip
        found |= {n: plane_over(data[n], data.data_window, there) for n in asked}
    return found


def border_field() -> Any:
    """The parameter that says what comes in over the frame's border."""
    return Field(
        "continue", title="beyond the frame",
        description="What comes in over the frame's border: its last pixels again, or nothing.",
        json_schema_extra={"labels": {"continue": "Continued", "clear": "Nothing"}},
    )  # fmt: skip


class DataStep(FieldStep):
    """One that goes by extra channels; where there are none to be had it leaves the picture as it was."""

    def whole(self, picture: PremultipliedPicture, level: int, frame: int) -> PremultipliedPicture:
        return picture

    def apply_with_sources(
        self, picture: PremultipliedPicture, level: int, frame: int, fetch: Fetch | None
    ) -> PremultipliedPicture:
        if fetch is None:
            return picture
        full = whole_picture(picture)
        planes = {n: full[n] for n in RGBA} | dict(self.by_data(full, level, fetch))
        done = PremultipliedPicture(planes, full.data_window, full.display_window)
        return only_channels(full, done, self.channels)

    @abstractmethod
    def by_data(self, full: PremultipliedPicture, level: int, fetch: Fetch) -> Mapping[str, Plane]:
        """The step on a picture over its whole frame: those of R, G, B, A that it changes."""
