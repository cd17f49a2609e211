"""Levels: black and white points and a gamma between them, on straight colour or on alpha.

``y = out_black + (out_white - out_black) * t^(1/gamma)`` with
``t = (x - in_black) / (in_white - in_black)``. Values are not clamped; where t is at or below 0
the power is left out, so that blacks below the black point stay ordered.

Common practice, no source. Worked example (common practice): input white 255 to 200, gamma 1.5,
black untouched, brightens a dull sky.
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field, field_validator

from ..numeric.jit import inline, kernel
from ..numeric.power import power
from .base import Flat, Step


@inline
def _level(x, in_black, inv_range, inv_gamma, out_black, out_range, plain):  # type: ignore[no-untyped-def]
    t = (x - in_black) * inv_range
    # the power is always computed and then chosen or not: so the loop vectorises
    bent = power(abs(t), inv_gamma)
    return out_black + out_range * (bent if (t > 0 and not plain) else t)


@kernel
def _levels_on_straight(c, a, out, in_black, inv_range, inv_gamma, out_black, out_range, plain):  # type: ignore[no-untyped-def]
    """Unpremultiply, levels, premultiply on one plane; light at alpha 0 as it stands."""
    one = np.float32(1)
    zero = np.float32(0)
    for i in range(c.size):
        alpha, x = a[i], c[i]
        k = alpha if alpha > 0 else one
        y = _level(x / k, in_black, inv_range, inv_gamma, out_black, out_range, plain) * k
        # where there is neither surface nor light, black must not be lifted into the picture
        result = y if (alpha > 0 or x != 0) else zero
        out[i] = result


@kernel
def _levels_on_plane(c, out, in_black, inv_range, inv_gamma, out_black, out_range, plain):  # type: ignore[no-untyped-def]
    for i in range(c.size):
        out[i] = _level(c[i], in_black, inv_range, inv_gamma, out_black, out_range, plain)


class LevelsStep(Step):
    """Set black, white and gamma."""

    title: ClassVar[str] = "Levels"
    help: ClassVar[str] = "Moves black and white and bends what lies between."
    wants: ClassVar[Literal["straight", "premultiplied", "alpha", "data"]] = "straight"

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
    channels: str = Field(
        "rgb", pattern="^[rgba]+$", title="channels", description="Letters of the channels it changes.",
        json_schema_extra={"unit": "channels"},
    )  # fmt: skip

    @field_validator("in_white")
    @classmethod
    def _apart(cls, value: float, info: object) -> float:
        black = getattr(info, "data", {}).get("in_black", 0.0)
        if abs(value - black) < 1e-6:
            raise ValueError(f"in white {value} must differ from in black {black}")
        return value

    def numbers(self) -> tuple[np.float32, np.float32, np.float32, np.float32, np.float32, bool]:
        return (
            np.float32(self.in_black),
            np.float32(1 / (self.in_white - self.in_black)),
            np.float32(1 / self.gamma),
            np.float32(self.out_black),
            np.float32(self.out_white - self.out_black),
            self.gamma == 1,
        )

    def apply(self, given: Flat, scratch: Flat) -> Flat:
        return levels_values(self, given, scratch)

    def words(self) -> str:
        lo, hi = round(self.in_black * 255), round(self.in_white * 255)
        return f"{lo}..{hi}, gamma {self.gamma:.2f}"


def levels_values(step: LevelsStep, given: Flat, scratch: Flat) -> Flat:
    """Levels on flat premultiplied planes; see `Step.apply`."""
    numbers = step.numbers()
    alpha = given[3]
    done = list(given)
    for i, letter in enumerate("rgb"):
        if letter in step.channels:
            _levels_on_straight(given[i], alpha, scratch[i], *numbers)
            done[i] = scratch[i]
    if "a" in step.channels:
        new_alpha = np.empty_like(alpha)
        _levels_on_plane(alpha, new_alpha, *numbers)
        # The surface colour stays: what was multiplied by the old alpha is multiplied by the new.
        ratio = np.divide(new_alpha, alpha, out=np.ones_like(alpha), where=alpha > 0)
        for i in range(3):
            done[i] = np.multiply(done[i], ratio, out=scratch[i])
        scratch[3][:] = new_alpha
        done[3] = scratch[3]
    return done
