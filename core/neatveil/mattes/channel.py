"""A channel of a layer or an element, and the values of it that count."""

from __future__ import annotations

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from ..channels.luma import LUMA_WEIGHTS
from ..channels.pick import PICKS, LumaWeights, picked
from ..colour.codes import coded
from ..numeric.jit import kernel
from ..picture import Plane
from .part import PicturePart, Rows


@kernel
def _ramp(x, out, low, high, inverted):  # type: ignore[no-untyped-def]
    zero, one = np.float32(0), np.float32(1)
    inverse = one / (high - low)
    base, sign = (one, -one) if inverted else (zero, one)
    for i in range(x.size):
        v = (x[i] - low) * inverse
        # NaN is nothing that is kept
        out[i] = base + sign * (min(one, max(zero, v)) if v == v else zero)


@kernel
def _luma_ramp(r, g, b, wr, wg, wb, low, high, inverted, out):  # type: ignore[no-untyped-def]
    """Both in one pass: what it takes is the reading of three planes."""
    zero, one = np.float32(0), np.float32(1)
    inverse = one / (high - low)
    base, sign = (one, -one) if inverted else (zero, one)
    for i in range(out.size):
        v = (wr * r[i] + wg * g[i] + wb * b[i] - low) * inverse
        out[i] = base + sign * (min(one, max(zero, v)) if v == v else zero)


@kernel
def _gentle(x, out, low, high, inverted):  # type: ignore[no-untyped-def]
    """Two S-shaped passes over twice the width: the middle is about as steep as one straight pass."""
    zero, one, two, three = np.float32(0), np.float32(1), np.float32(2), np.float32(3)
    inverse = one / (two * (high - low))
    start = low - np.float32(0.5) * (high - low)
    base, sign = (one, -one) if inverted else (zero, one)
    for i in range(x.size):
        v = (x[i] - start) * inverse
        v = min(one, max(zero, v)) if v == v else zero
        v = v * v * (three - two * v)
        v = v * v * (three - two * v)
        out[i] = base + sign * v


@kernel
def _range(x, out, low, high, soft, inverted):  # type: ignore[no-untyped-def]
    zero, one = np.float32(0), np.float32(1)
    base, sign = (one, -one) if inverted else (zero, one)
    for i in range(x.size):
        away = max(low - x[i], x[i] - high)
        v = one - away / soft if soft > zero else (one if away <= zero else zero)
        out[i] = base + sign * (min(one, max(zero, v)) if v == v else zero)


class ChannelPart(PicturePart):
    """A channel of a picture."""

    title: ClassVar[str] = "Channel"

    kind: Literal["channel"] = "channel"
    channel: str = Field(
        "alpha", min_length=1, max_length=200, title="channel",
        description="alpha, luma, red, green, blue, hue, saturation, lightness, min, max, a screen's "
        "difference, a difference of two channels such as red-green, or an extra channel.",
        json_schema_extra={"unit": "pick"},
    )  # fmt: skip
    weights: LumaWeights = Field(
        "bt709", title="luma by",
        json_schema_extra={
            "labels": {"bt601": "BT.601", "bt709": "BT.709", "bt2020": "BT.2020", "mean": "mean"}
        },
    )  # fmt: skip
    space: Literal["codes", "light"] = Field(
        "codes", title="values of", description="sRGB codes, as the eye goes by, or linear light.",
        json_schema_extra={"labels": {"codes": "sRGB codes", "light": "Light"}},
    )  # fmt: skip
    shape: Literal["ramp", "range"] = Field(
        "ramp", title="keeps",
        description="ramp: nothing up to low, all from high on; range: what lies between, with soft ends.",
        json_schema_extra={"labels": {"ramp": "Above", "range": "Between"}},
    )  # fmt: skip
    low: float = Field(
        0.0, ge=-1e6, le=1e6, title="low", json_schema_extra={"unit": "code", "slider": [0, 1]}
    )
    high: float = Field(
        1.0, ge=-1e6, le=1e6, title="high", json_schema_extra={"unit": "code", "slider": [0, 1]}
    )
    soft: float = Field(
        0.1, ge=0, le=1e6, title="soft", description="How far beyond a range it fades.",
        json_schema_extra={"unit": "code", "slider": [0, 1]},
    )  # fmt: skip
    passes: Literal[1, 2] = Field(
        1,
        title="passes",
        description="1: straight from low to high. 2: twice, each time gently and from "
        "further out: as steep in the middle, with soft shoulders that keep thin stems.",
    )

    @model_validator(mode="after")
    def _apart(self) -> Self:
        if self.shape == "ramp" and self.low == self.high:
            raise ValueError(f"low and high of a ramp must differ, both are {self.low:g}")
        return self

    @property
    def extra_channel(self) -> str:
        return "" if self.channel in PICKS else self.channel

    @property
    def _ends(self) -> tuple[np.float32, np.float32]:
        """Of the ramp; curves may let the two meet."""
        low, high = np.float32(self.low), np.float32(self.high)
        return low, high if high != low else low + np.float32(1e-6)

    def values(self, rows: Rows) -> Plane:
        code = coded if self.space == "codes" else None
        return picked(rows.planes, self.channel, weights=self.weights, code=code)

    def done(self, rows: Rows, out: Plane) -> None:
        if self.channel != "luma" or self.space == "codes" or (self.shape, self.passes) != ("ramp", 1):
            super().done(rows, out)
            return
        r, g, b = (np.ascontiguousarray(rows.planes[n]).reshape(-1) for n in "RGB")
        weights = [np.float32(w) for w in LUMA_WEIGHTS[self.weights]]
        low, high = self._ends
        _luma_ramp(r, g, b, *weights, low, high, self.inverted, out.reshape(-1))

    def kept(self, values: Plane, out: Plane | None = None) -> Plane:
        if out is None:
            out = np.empty(values.shape, np.float32)
        flat, target = np.ascontiguousarray(values).reshape(-1), out.reshape(-1)
        if self.shape == "range":
            low, high, soft = (np.float32(v) for v in (self.low, self.high, self.soft))
            _range(flat, target, low, high, soft, self.inverted)
            return out
        low, high = self._ends
        (_ramp if self.passes == 1 else _gentle)(flat, target, low, high, self.inverted)
        return out
