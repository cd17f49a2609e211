"""Levels: black and white points and a gamma between them.

``y = out_black + (out_white - out_black) * t^(1/gamma)`` with
``t = (x - in_black) / (in_white - in_black)``. Values are not clamped; where t is at or below 0
the power is left out, so that blacks below the black point stay ordered.

Common practice, no source. Worked example (common practice): input white 255 to 200, gamma 1.5,
black untouched, brightens a dull sky.
"""

from __future__ import annotations

from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import Field, field_validator

from ..numeric.jit import kernel
from ..numeric.power import power
from ..picture import Plane
from .base import Flat, float32s
from .linear import Linear
from .surface import PART, out_of_alpha, shares, times
from .value import ValueStep


@kernel
def _bent(x, out, in_black, inv_range, inv_gamma, out_black, out_range):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        t = (x[i] - in_black) * inv_range
        # the power is always computed and then chosen or not: so the loop vectorises
        bent = power(abs(t), inv_gamma)
        out[i] = out_black + out_range * (bent if t > 0 else t)


@kernel
def _bent_under(r, g, b, a, chosen, out_r, out_g, out_b, numbers):  # type: ignore[no-untyped-def]
    """Out of the alpha, levels, into it again in one pass."""
    scratch = np.empty((3, PART), np.float32)
    for start in range(0, a.size, PART):
        part = slice(start, start + PART)
        under = a[part]
        k, x, y = scratch[0, : under.size], scratch[1, : under.size], scratch[2, : under.size]
        shares(r[part], g[part], b[part], under, k)
        for c, out, wanted in ((r, out_r, chosen[0]), (g, out_g, chosen[1]), (b, out_b, chosen[2])):
            if wanted:
                out_of_alpha(c[part], under, x)
                _bent(x, y, *numbers)
                times(y, k, out[part])


class LevelsStep(ValueStep):
    """Set black, white and gamma."""

    title: ClassVar[str] = "Levels"
    help: ClassVar[str] = "Moves black and white and bends what lies between."
    fresh: ClassVar[dict[str, Any]] = {"space": "codes"}

    kind: Literal["levels"] = "levels"
    in_black: float = Field(
        0.0, ge=-4, le=4, title="in black", description="Becomes out black.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip
    in_white: float = Field(
        1.0, ge=-4, le=16, title="in white", description="Becomes out white.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip
    gamma: float = Field(
        1.0, ge=0.05, le=20, title="gamma", description="Above 1 brightens the middle.",
        json_schema_extra={"unit": "", "slider": [0.2, 4]},
    )  # fmt: skip
    out_black: float = Field(
        0.0, ge=-4, le=4, title="out black", description="What in black becomes.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip
    out_white: float = Field(
        1.0, ge=-4, le=16, title="out white", description="What in white becomes.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip

    @field_validator("in_white")
    @classmethod
    def _apart(cls, value: float, info: object) -> float:
        black = getattr(info, "data", {}).get("in_black", 0.0)
        if abs(value - black) < 1e-6:
            raise ValueError(f"in white {value} must differ from in black {black}")
        return value

    def _numbers(self) -> tuple[float, float, float, float, float]:
        span = self.in_white - self.in_black
        inverse = 1 / (span if abs(span) > 1e-6 else 1e-6)  # curves may let the two meet
        out_range = self.out_white - self.out_black
        return self.in_black, inverse, 1 / self.gamma, self.out_black, out_range

    def linear(self) -> Linear | None:
        low, inverse, _, out_black, out_range = self._numbers()
        factor = out_range * inverse
        return Linear.each(self.channels, factor, out_black - factor * low) if self.gamma == 1 else None

    def value(self, x: Plane, out: Plane) -> None:
        _bent(x, out, *float32s(*self._numbers()))

    def direct(self, given: Flat, out: Flat) -> Flat | None:
        if self.space != "light" or "a" in self.channels:
            return None
        chosen = tuple(letter in self.channels for letter in "rgb")
        _bent_under(*given, chosen, *out[:3], float32s(*self._numbers()))
        return [*(o if c else g for o, g, c in zip(out, given, chosen, strict=False)), given[3]]

    def words(self) -> str:
        lo, hi = round(self.in_black * 255), round(self.in_white * 255)
        return f"{lo}..{hi}, gamma {self.gamma:.2f}"
