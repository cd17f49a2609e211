"""Extra channels of a layer that a step goes by, such as depth: over the frame, at the step's level."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import Field
from pydantic.config import JsonDict

from ..errors import ValueRefused
from ..picture import Plane, PremultipliedPicture, plane_over
from .base import Fetch


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
