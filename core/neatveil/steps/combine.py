"""Arithmetic of two pictures, channel by channel, with a stated answer to values that leave 0..1.

``keep`` leaves them; ``clip`` cuts them off; ``wrap`` counts as 8-bit codes do, 256 being 0 again;
``rescale`` fits the range that the operator can reach from values within 0..1 into 0..1. Bitwise operators
work on 8-bit codes. Formulas: W3C Compositing and Blending Level 1 [W3CCompositing] for screen and
overlay; the rest plain.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..colour.codes import coded, lit
from ..numeric.pool import for_strips
from ..picture import RGB, Plane, PremultipliedPicture, new_planes
from .base import Family
from .second_source import SecondSourceStep
from .surface import into_alpha, out_of_alpha

_TINY = np.float32(1e-6)


def _codes(x: Plane) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    return np.rint(np.clip(np.nan_to_num(x), 0, 1) * 255).astype(np.uint8)


def _bits(
    work: Callable[..., np.ndarray[tuple[int, ...], np.dtype[np.uint8]]],
) -> Callable[[Plane, Plane], Plane]:
    return lambda a, b: work(_codes(a), _codes(b)).astype(np.float32) / np.float32(255)


def _divide(a: Plane, b: Plane) -> Plane:
    """Nothing is divided by nothing: where the second is 0 the first stays."""
    return np.divide(a, b, out=a.copy(), where=np.abs(b) > _TINY)


OPERATIONS: dict[str, tuple[str, Callable[[Plane, Plane], Plane]]] = {
    "add": ("Add", lambda a, b: a + b),
    "subtract": ("Subtract", lambda a, b: a - b),
    "multiply": ("Multiply", lambda a, b: a * b),
    "divide": ("Divide", _divide),
    "screen": ("Screen", lambda a, b: a + b - a * b),
    "overlay": ("Overlay", lambda a, b: np.where(a <= 0.5, 2 * a * b, 1 - 2 * (1 - a) * (1 - b))),
    "lighten": ("Lighten", np.maximum),
    "darken": ("Darken", np.minimum),
    "difference": ("Difference", lambda a, b: np.abs(a - b)),
    "average": ("Average", lambda a, b: (a + b) * np.float32(0.5)),
    "and": ("Bits: and", _bits(np.bitwise_and)),
    "or": ("Bits: or", _bits(np.bitwise_or)),
    "xor": ("Bits: either", _bits(np.bitwise_xor)),
}

#: Range that an operator can reach from values within 0..1, where it is another.
_REACH = {"add": (0.0, 2.0), "subtract": (-1.0, 1.0)}


class CombineStep(SecondSourceStep):
    """Arithmetic with a second source."""

    title: ClassVar[str] = "Combine"
    help: ClassVar[str] = "Adds, subtracts, multiplies ... a second source, channel by channel."
    family: ClassVar[Family] = "channels"

    kind: Literal["combine"] = "combine"
    channels: str = Field("rgb", pattern="^[rgb]+$", title="channels", json_schema_extra={"unit": "channels"})
    operation: Literal[
        "add", "subtract", "multiply", "divide", "screen", "overlay", "lighten", "darken", "difference",
        "average", "and", "or", "xor",
    ] = Field(
        "add", title="by", json_schema_extra={"labels": {n: t for n, (t, _) in OPERATIONS.items()}}
    )  # fmt: skip
    overflow: Literal["keep", "clip", "wrap", "rescale"] = Field(
        "keep", title="beyond 0..1", description="What becomes of values outside.",
        json_schema_extra={"labels": {"keep": "Keep", "clip": "Clip", "wrap": "Wrap", "rescale": "Rescale"}},
    )  # fmt: skip
    space: Literal["light", "codes"] = Field(
        "light", title="works on", json_schema_extra={"labels": {"light": "Light", "codes": "sRGB codes"}}
    )
    transparency: Literal["first", "both"] = Field(
        "first", title="alpha", description="The first's own, or what either covers.",
        json_schema_extra={"labels": {"first": "The first's", "both": "Of both"}},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return not self.second

    def both(
        self, picture: PremultipliedPicture, other: PremultipliedPicture | None, level: int
    ) -> PremultipliedPicture:
        if other is None:
            return picture
        out = new_planes((*RGB, "A"), *picture["A"].shape)

        def strip(a: int, b: int) -> None:
            one, two = ({n: p[n][a:b].reshape(-1) for n in (*RGB, "A")} for p in (picture, other))
            alpha = out["A"][a:b].reshape(-1)
            if self.transparency == "both":
                alpha[:] = one["A"] + two["A"] - one["A"] * two["A"]
            else:
                alpha[:] = one["A"]
            for n in RGB:
                target = out[n][a:b].reshape(-1)
                if n.lower() not in self.channels:
                    target[:] = one[n]
                    continue
                value = self._value(self._straight(one, n), self._straight(two, n))
                if self.transparency == "both":
                    target[:] = value * alpha
                else:
                    into_alpha(value, *(one[m] for m in (*RGB, "A")), alpha, np.float32(0), target)

        height, width = picture["A"].shape
        for_strips(height, width * 4, strip)
        return PremultipliedPicture(
            out, picture.data_window, picture.display_window, data_planes=picture.data_planes
        )

    def _straight(self, planes: dict[str, Plane], name: str) -> Plane:
        straight = np.empty_like(planes[name])
        out_of_alpha(planes[name], planes["A"], straight)
        return coded(straight) if self.space == "codes" else straight

    def _value(self, a: Plane, b: Plane) -> Plane:
        value = np.asarray(OPERATIONS[self.operation][1](a, b), np.float32)
        if self.overflow == "clip":
            value = np.clip(value, 0, 1)
        elif self.overflow == "wrap":
            value = np.mod(np.rint(value * 255), 256).astype(np.float32) / np.float32(255)
        elif self.overflow == "rescale":
            low, high = _REACH.get(self.operation, (0.0, 1.0))
            value = (value - np.float32(low)) / np.float32(high - low)
        return lit(value) if self.space == "codes" else value

    def words(self) -> str:
        second = self.second.removeprefix("layer:") or "nothing"
        return f"{OPERATIONS[self.operation][0].lower()} {second}"
