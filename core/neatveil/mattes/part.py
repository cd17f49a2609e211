"""One part of a matte: a channel of a layer or an element, and the values of it that count."""

from __future__ import annotations

from typing import Literal, Self

import numpy as np
from pydantic import Field, model_validator

from ..animation import Animated
from ..channels.pick import PICKS, LumaWeights
from ..numeric.jit import kernel
from ..picture import Plane

How = Literal["add", "subtract", "intersect", "exclude"]


@kernel
def _ramp(x, out, low, high):  # type: ignore[no-untyped-def]
    zero, one = np.float32(0), np.float32(1)
    inverse = one / (high - low)
    for i in range(x.size):
        v = (x[i] - low) * inverse
        # NaN is nothing that is kept
        out[i] = min(one, max(zero, v)) if v == v else zero


@kernel
def _range(x, out, low, high, soft):  # type: ignore[no-untyped-def]
    zero, one = np.float32(0), np.float32(1)
    for i in range(x.size):
        away = max(low - x[i], x[i] - high)
        v = one - away / soft if soft > zero else (one if away <= zero else zero)
        out[i] = min(one, max(zero, v)) if v == v else zero


class Part(Animated):
    """``source``: ``layer:`` and a layer's id, an element's key, or empty for the layer itself."""

    on: bool = Field(True, title="On")
    how: How = Field(
        "add", title="how",
        description="add: kept where either keeps; subtract: taken out of what is there; "
        "intersect: only where both keep; exclude: where one of the two keeps.",
        json_schema_extra={"labels": {
            "add": "plus", "subtract": "minus", "intersect": "only in", "exclude": "either, not both",
        }},
    )  # fmt: skip
    source: str = Field(
        "", pattern=r"^((layer:)?[A-Za-z0-9_-]{1,64})?$", title="source",
        description="Another layer, shown or hidden, or an element; the layer itself where it is left out.",
        json_schema_extra={"unit": "source"},
    )  # fmt: skip
    read: Literal["source", "steps", "placed"] = Field(
        "steps", title="read", description="As it came, after its own steps, or as it lies in the comp.",
        json_schema_extra={"labels": {
            "source": "As it came", "steps": "After its steps", "placed": "As it lies in the comp",
        }},
    )  # fmt: skip
    channel: str = Field(
        "alpha", min_length=1, max_length=200, title="channel",
        description="alpha, luma, red, green, blue, hue, saturation, lightness, min, max, "
        "or a further channel.",
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
    inverted: bool = Field(False, title="inverted", description="Black keeps, white removes.")
    fit: Literal["stretch", "centre"] = Field(
        "stretch", title="sizes", json_schema_extra={"labels": {"stretch": "Stretched", "centre": "Centred"}}
    )

    @model_validator(mode="after")
    def _apart(self) -> Self:
        if self.shape == "ramp" and self.low == self.high:
            raise ValueError(f"low and high of a ramp must differ, both are {self.low:g}")
        return self

    @property
    def further(self) -> bool:
        """Whether its channel is none that every picture has."""
        return self.channel not in PICKS

    def kept(self, plane: Plane, out: Plane | None = None) -> Plane:
        """``(H, W)`` 0..1 of a channel's values; a new plane, or the contiguous one that is given."""
        if out is None:
            out = np.empty(plane.shape, np.float32)
        flat, target = np.ascontiguousarray(plane).reshape(-1), out.reshape(-1)
        low, high, soft = (np.float32(v) for v in (self.low, self.high, self.soft))
        if self.shape == "range":
            _range(flat, target, low, high, soft)
        else:
            # curves may let the two meet
            _ramp(flat, target, low, high if high != low else low + np.float32(1e-6))
        if self.inverted:
            np.subtract(np.float32(1), out, out=out)
        return out

    def words(self, name: str) -> str:
        text = self.channel if self.channel in {"alpha", "luma"} else f"{self.channel}"
        return f"{text} of {name}{', inverted' if self.inverted else ''}"
