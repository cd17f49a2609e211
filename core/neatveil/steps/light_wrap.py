"""The light of what lies behind, spilling over the edge: it marries a cut-out with its plate.

``C + gain * a * blur(B * (1 - a))``: what is seen of the second picture beside the layer spreads into it, as
far as its alpha goes. Alpha stays. Common practice, no source.
"""

from __future__ import annotations

from math import ceil
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..numeric.jit import kernel
from ..numeric.pool import for_each
from ..picture import RGB, Box, Plane, PremultipliedPicture, used_box
from ..picture.finite import finite_plane
from .base import Family, scaled
from .blur import softened
from .second_source import Fit, SecondSourceStep, fit_field


@kernel
def _beside(b, a, out):  # type: ignore[no-untyped-def]
    """What of a premultiplied channel is seen beside a layer."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(out.size):
        out[i] = b[i] * (one - min(max(a[i], zero), one))


@kernel
def _wrapped(c, a, light, out, gain, screen):  # type: ignore[no-untyped-def]
    """The light inside the layer's alpha, added or screened."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(out.size):
        more = gain * min(max(a[i], zero), one) * light[i]
        out[i] = c[i] + (more * (one - min(max(c[i], zero), one)) if screen else more)


class LightWrapStep(SecondSourceStep):
    """Let the light behind spill over the edge."""

    title: ClassVar[str] = "Light wrap"
    help: ClassVar[str] = "Lets the light of what lies behind spill over the layer's edge."
    family: ClassVar[Family] = "light"

    kind: Literal["light_wrap"] = "light_wrap"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    fit: Fit = fit_field("placed")
    size: float = Field(
        12.0, ge=0, le=1000, title="size", description="Standard deviation of the spilling.",
        json_schema_extra={"unit": "px", "slider": [0, 60]},
    )  # fmt: skip
    gain: float = Field(0.6, ge=0, le=100, title="strength", json_schema_extra={"slider": [0, 2]})
    blend: Literal["add", "screen"] = Field(
        "add", title="laid on",
        description="Added as light, or screened: less of it where the layer is bright.",
        json_schema_extra={"labels": {"add": "Added", "screen": "Screened"}},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.gain == 0 or not self.second

    def both(
        self, picture: PremultipliedPicture, other: PremultipliedPicture | None, level: int
    ) -> PremultipliedPicture:
        if other is None:
            return picture
        window = picture.data_window
        inside = used_box(PremultipliedPicture({"A": picture["A"]}, window, picture.display_window))
        sigma = max(scaled(self.size, level), 0.02)
        reach = ceil(4 * sigma) + 2
        area = Box(inside.x0 - reach, inside.y0 - reach, inside.x1 + reach, inside.y1 + reach)
        area = area.intersect(window)
        near, far = _slices(area, window), _slices(inside, area)
        planes: dict[str, Plane] = dict(picture.planes)

        def wrap(name: str) -> None:
            alpha = np.ascontiguousarray(picture["A"][near])
            behind = finite_plane(np.ascontiguousarray(other[name][near]))
            seen = np.empty_like(alpha)
            _beside(behind.reshape(-1), alpha.reshape(-1), seen.reshape(-1))
            light = np.ascontiguousarray(softened(seen, sigma)[far])
            own = np.ascontiguousarray(picture[name][near][far])
            done = np.empty_like(own)
            _wrapped(
                own.reshape(-1), np.ascontiguousarray(alpha[far]).reshape(-1), light.reshape(-1),
                done.reshape(-1), np.float32(self.gain), self.blend == "screen",
            )  # fmt: skip
            whole = picture[name].copy()
            whole[_slices(inside, window)] = done
            planes[name] = whole

        for_each([n for n in RGB if n.lower() in self.channels], wrap)
        return picture.with_planes(planes)

    def words(self) -> str:
        return f"{self.size:g} px, {self.gain:g}"


def _slices(inner: Box, outer: Box) -> tuple[slice, slice]:
    return (
        slice(inner.y0 - outer.y0, inner.y1 - outer.y0), slice(inner.x0 - outer.x0, inner.x1 - outer.x0),
    )  # fmt: skip
