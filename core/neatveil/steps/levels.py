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

from ..numeric.jit import inline, kernel
from ..numeric.power import power
from ..picture import Plane
from .base import Flat, float32s
from .value import ValueStep


@inline
def _level(x, in_black, inv_range, inv_gamma, out_black, out_range):  # type: ignore[no-untyped-def]
    t = (x - in_black) * inv_range
    # the power is always computed and then chosen or not: so the loop vectorises
    bent = power(abs(t), inv_gamma)
    return out_black + out_range * (bent if t > 0 else t)


@kernel
def _bent(x, out, in_black, inv_range, inv_gamma, out_black, out_range):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = _level(x[i], in_black, inv_range, inv_gamma, out_black, out_range)


@kernel
def _straight_line(x, out, in_black, inv_range, out_black, out_range):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = out_black + out_range * ((x[i] - in_black) * inv_range)


@kernel
def _on_premultiplied(c, a, out, in_black, inv_range, inv_gamma, out_black, out_range, plain):  # type: ignore[no-untyped-def]
    """Out of the alpha, levels, into it again in one pass; light at alpha 0 as it stands."""
    one, zero = np.float32(1), np.float32(0)
    for i in range(c.size):
        alpha, x = a[i], c[i]
        k = alpha if alpha > zero else one
        t = (x / k - in_black) * inv_range
        bent = power(abs(t), inv_gamma)
        y = (out_black + out_range * (bent if (t > zero and not plain) else t)) * k
        out[i] = y if (alpha > zero or x != zero) else zero


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

    def _numbers(self) -> tuple[np.float32, ...]:
        span = self.in_white - self.in_black
        inverse = 1 / (span if abs(span) > 1e-6 else 1e-6)  # curves may let the two meet
        out_range = self.out_white - self.out_black
        return float32s(self.in_black, inverse, 1 / self.gamma, self.out_black, out_range)

    def value(self, x: Plane, out: Plane) -> None:
        low, inverse, gamma, out_black, out_range = self._numbers()
        if self.gamma == 1:
            _straight_line(x, out, low, inverse, out_black, out_range)
        else:
            _bent(x, out, low, inverse, gamma, out_black, out_range)

    def direct(self, given: Flat, scratch: Flat) -> Flat | None:
        if self.space != "light" or "a" in self.channels:
            return None
        done = list(given)
        for i, letter in enumerate("rgb"):
            if letter in self.channels:
                _on_premultiplied(given[i], given[3], scratch[i], *self._numbers(), self.gamma == 1)
                done[i] = scratch[i]
        return done

    def words(self) -> str:
        lo, hi = round(self.in_black * 255), round(self.in_white * 255)
        return f"{lo}..{hi}, gamma {self.gamma:.2f}"
