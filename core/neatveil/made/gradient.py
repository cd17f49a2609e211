"""From one colour to another, along a line or around a point.

Source: CSS Images Module Level 4, section 3 [CSSImages4]: colours are mixed multiplied by their alpha.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..colour import decode, encode
from ..drawn.form import place_field
from ..numeric.pool import for_strips
from ..picture import RGBA, Plane, PremultipliedPicture, new_planes
from .base import Canvas, Colour, Made, colour_field, share_field


class GradientMade(Made):
    """``x``, ``y``: where the first colour is, and ``to_x``, ``to_y``: the second; from the centre."""

    title: ClassVar[str] = "Gradient"
    help: ClassVar[str] = "From one colour to another, along a line or around a point."
    rank: ClassVar[int] = 40

    kind: Literal["gradient"] = "gradient"
    form: Literal["linear", "radial"] = Field(
        "linear", title="form", json_schema_extra={"labels": {"linear": "Linear", "radial": "Radial"}}
    )
    x: float = place_field("from x")
    y: float = place_field("from y", default=-300.0)
    to_x: float = place_field("to x")
    to_y: float = place_field("to y", default=300.0)
    colour: Colour = colour_field("from colour")
    alpha: float = share_field("from alpha")
    to_colour: Colour = colour_field("to colour", default=(0.0, 0.0, 0.0))
    to_alpha: float = share_field("to alpha")
    mixed_in: Literal["light", "codes"] = Field(
        "light", title="mixed in",
        description="Linear light, or sRGB code values, which are even to the eye.",
        json_schema_extra={"labels": {"light": "Light", "codes": "Code values"}},
    )  # fmt: skip
    beyond: Literal["hold", "repeat", "mirror"] = Field(
        "hold", title="beyond",
        json_schema_extra={"labels": {"hold": "Held", "repeat": "Repeated", "mirror": "There and back"}},
    )  # fmt: skip

    def drawn(self, canvas: Canvas) -> PremultipliedPicture:
        frame = canvas.frame
        planes = new_planes(RGBA, frame.height, frame.width)

        def strip(a: int, b: int) -> None:
            self._mixed(self._shares(canvas, a, b), [planes[n][a:b] for n in RGBA])

        for_strips(frame.height, frame.width, strip)
        return PremultipliedPicture(planes, frame, frame)

    def _shares(self, canvas: Canvas, a: int, b: int) -> Plane:
        """How far each pixel's centre lies on the way, 0..1."""
        along, down = (self.to_x - self.x) * canvas.share, (self.to_y - self.y) * canvas.share
        length = max(float(np.hypot(along, down)), 1e-9)
        x = np.arange(canvas.frame.width) + 0.5 - canvas.middle[0] - self.x * canvas.share
        y = np.arange(a, b)[:, None] + 0.5 - canvas.middle[1] - self.y * canvas.share
        t = np.hypot(x, y) / length if self.form == "radial" else (x * along + y * down) / length**2
        if self.beyond == "repeat":
            t = t - np.floor(t)
        elif self.beyond == "mirror":
            t = 1 - np.abs(t % 2 - 1)
        return np.clip(t, 0, 1).astype(np.float32)

    def _mixed(self, share: Plane, out: list[Plane]) -> None:
        """Premultiplied light of a mixture of both ends."""
        ends = np.array([self.colour, self.to_colour], np.float32)
        alphas = np.array([self.alpha, self.to_alpha], np.float32)
        encoded = self.mixed_in == "codes"
        if encoded:
            ends = encode(ends, "srgb")
        alpha = out[3]
        np.add(alphas[0], share * (alphas[1] - alphas[0]), out=alpha)
        for c in range(3):
            first, last = ends[0, c] * alphas[0], ends[1, c] * alphas[1]
            np.add(first, share * (last - first), out=out[c])
            if encoded:
                straight = np.divide(out[c], alpha, out=np.zeros_like(alpha), where=alpha > 0)
                np.multiply(decode(straight, "srgb"), alpha, out=out[c])

    def words(self) -> str:
        return f"{self.form}, in {'light' if self.mixed_in == 'light' else 'code values'}"
