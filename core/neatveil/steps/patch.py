"""The patch: any channel into any channel, of the layer itself and of one further source.

Colour is taken out of the alpha on the way in and put back under the new alpha on the way out, unless a side
is said to be premultiplied. Colour of a source is light where that source's alpha is 0, and stays as it is;
alpha, extra channels and constants are plain numbers. Where a source has neither colour nor alpha its
channels are those of black, and count as far as the new alpha covers. What is not rerouted keeps every bit.
"""

from __future__ import annotations

from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..channels.luma import LUMA_WEIGHTS
from ..channels.models import Range, Weights, from_hls, from_ycc, to_hls, to_ycc
from ..colour.codes import coded, lit
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..numeric.sums import weighed
from ..picture import RGBA, Plane, PremultipliedPicture, new_planes
from .base import Family, float32s
from .linear import Linear
from .second_source import SecondSourceStep
from .surface import into_alpha, out_of_alpha

Footing = Literal["straight", "premultiplied"]
Flat = dict[str, Plane]

#: What can be asked of a source besides its own planes.
MADE = ("luma", "hue", "lightness", "saturation", "cb", "cr", "min", "max")
_MODELS = {"hls": ("hue", "lightness", "saturation"), "ycc": ("luma", "cb", "cr")}


class Route(BaseModel):
    """One output: ``gain * value + offset`` of a channel, or of one minus it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    source: Literal["own", "second", "constant"] = "own"
    channel: str = Field("R", min_length=1, max_length=200)
    inverted: bool = False
    gain: float = Field(1.0, ge=-1000, le=1000)
    offset: float = Field(0.0, ge=-1000, le=1000)

    @model_validator(mode="after")
    def _number(self) -> Route:
        if self.source == "constant" and self.channel not in {"0", "1"}:
            raise ValueError(f"a constant is 0 or 1, not {self.channel!r}")
        return self

    @property
    def plain(self) -> bool:
        return not self.inverted and self.gain == 1 and self.offset == 0

    @property
    def numbers(self) -> tuple[float, float]:
        """Factor and sum: an inverted one is ``gain * (1 - x) + offset``."""
        return (-self.gain, self.gain + self.offset) if self.inverted else (self.gain, self.offset)

    @property
    def colour(self) -> bool:
        """Whether it takes colour: surface under its source's alpha, and light where that is 0."""
        return self.source != "constant" and (self.channel in {"R", "G", "B"} or self.channel in MADE)

    def words(self, second: str) -> str:
        if self.source == "constant":
            return self.channel
        name = {"R": "red", "G": "green", "B": "blue", "A": "alpha"}.get(self.channel, self.channel)
        text = name if self.source == "own" else f"{name} of {second or 'the second source'}"
        if self.inverted:
            text += ", inverted"
        if self.gain != 1:
            text += f", times {self.gain:g}"
        if self.offset:
            text += f", plus {self.offset:g}"
        return text


@kernel
def _routed(x, out, gain, offset):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = x[i] * gain + offset


class PatchStep(SecondSourceStep):
    """Route channels."""

    title: ClassVar[str] = "Patch"
    help: ClassVar[str] = "Any channel into any channel, of this layer and one more source."
    family: ClassVar[Family] = "channels"

    kind: Literal["patch"] = "patch"
    routes: dict[Literal["R", "G", "B", "A"], Route] = Field(
        {}, title="routes", description="Where an output comes from; one that is left out stays as it is.",
        json_schema_extra={"unit": "patch"},
    )  # fmt: skip
    outputs: Literal["rgb", "hls", "ycc"] = Field(
        "rgb", title="outputs are",
        description="What the colour outputs are: RGB; hue, lightness, saturation; luma, Cb, Cr.",
        json_schema_extra={"labels": {"rgb": "RGB", "hls": "Hue, light, sat", "ycc": "Luma, chroma"}},
    )  # fmt: skip
    space: Literal["light", "codes"] = Field(
        "light", title="works on", json_schema_extra={"labels": {"light": "Light", "codes": "sRGB codes"}}
    )
    weights: Weights = Field(
        "bt709", title="luma by",
        json_schema_extra={"labels": {"bt601": "BT.601", "bt709": "BT.709", "bt2020": "BT.2020"}},
    )  # fmt: skip
    chroma_range: Range = Field(
        "full", title="chroma range", description="0 to 1, or 16 to 235 and 16 to 240 of 255.",
        json_schema_extra={"labels": {"full": "Full", "narrow": "Narrow"}},
    )  # fmt: skip
    input_alpha: Footing = Field(
        "straight", title="comes in", description="How colour is taken from the sources.",
        json_schema_extra={"labels": {"straight": "Straight", "premultiplied": "Premultiplied"}},
    )  # fmt: skip
    output_alpha: Footing = Field(
        "straight", title="goes out", description="Premultiplied: not multiplied by the new alpha.",
        json_schema_extra={"labels": {"straight": "Straight", "premultiplied": "Premultiplied"}},
    )  # fmt: skip

    def changes_nothing(self, level: int) -> bool:
        return self.outputs == "rgb" and not self._changed() and self.input_alpha == self.output_alpha

    def _changed(self) -> list[str]:
        """Outputs that are not simply what they were."""
        return [n for n, r in self.routes.items() if not (r.source == "own" and r.channel == n and r.plain)]

    def planes(self, second: bool) -> tuple[str, ...]:
        side = "second" if second else "own"
        wanted = {r.channel for r in self.routes.values() if r.source == side}
        return tuple(sorted(wanted - {*RGBA, *MADE}))

    def both(
        self, picture: PremultipliedPicture, other: PremultipliedPicture | None, level: int
    ) -> PremultipliedPicture:
        linear = self._linear()
        if linear is not None:
            return linear.picture(picture)
        shape = picture["A"].shape
        out = new_planes(RGBA, *shape)

        def strip(a: int, b: int) -> None:
            one = {n: p[a:b].reshape(-1) for n, p in picture.planes.items()}
            two = {n: p[a:b].reshape(-1) for n, p in other.planes.items()} if other else {}
            self._strip(one, two, {n: p[a:b].reshape(-1) for n, p in out.items()})

        for_strips(shape[0], shape[1] * 2, strip)
        return PremultipliedPicture(
            out, picture.data_window, picture.display_window, data_planes=picture.data_planes
        )

    def _linear(self) -> Linear | None:
        """All of it as one matrix, where it takes colour for colour, straight, from its own layer."""
        if (self.outputs, self.space, self.input_alpha, self.output_alpha) != (
            "rgb",
            "light",
            "straight",
            "straight",
        ):
            return None
        rows = np.eye(4, 5)
        luma = LUMA_WEIGHTS[self.weights] if self.chroma_range == "full" else None
        for letter, route in self.routes.items():
            weights = np.zeros(5)
            if route.source == "own" and route.channel in RGBA and (route.channel != "A" or letter == "A"):
                weights[RGBA.index(route.channel)] = 1
            elif route.source == "own" and route.channel == "luma" and luma is not None:
                weights[:3] = luma
            elif route.source == "constant" and letter == "A":
                weights[4] = float(route.channel)
            else:
                return None
            factor, add = route.numbers
            rows[RGBA.index(letter)] = factor * weights
            rows[RGBA.index(letter), 4] += add
        return Linear(rows, bare=True)

    def _strip(self, one: Flat, two: Flat, out: Flat) -> None:
        sides = {"own": _Side(self, one), "second": _Side(self, two) if two else None}
        names = self._outputs()
        routes = {n: self.routes.get(n) or Route(channel=names[n]) for n in RGBA}  # type: ignore[call-overload]
        outputs = {n: self._value(route, sides, one["A"].size) for n, route in routes.items()}
        self._put_back(routes, outputs, sides, out)

    def _outputs(self) -> dict[str, str]:
        """What each output is when nothing is routed to it."""
        three = _MODELS.get(self.outputs, ("R", "G", "B"))
        return {**dict(zip("RGB", three, strict=True)), "A": "A"}

    def _value(self, route: Route, sides: dict[str, Any], size: int) -> Plane:
        if route.source == "constant":
            gain, offset = route.numbers
            return np.full(size, float(route.channel) * gain + offset, np.float32)
        side = sides[route.source]
        if side is None:  # a second source that is not chosen is a clear picture
            changes_nothing = np.zeros(size, np.float32)
            side = _Side(self, dict.fromkeys((*RGBA, *self.planes(True)), changes_nothing))
        plane: Plane = side.channel(route.channel)
        if route.plain:
            return plane
        out = np.empty_like(plane)
        _routed(plane, out, *float32s(*route.numbers))
        return out

    def _put_back(self, routes: dict[str, Route], outputs: Flat, sides: dict[str, Any], out: Flat) -> None:
        alpha = outputs["A"]
        out["A"][:] = alpha
        own = sides["own"]
        for n, plane in zip("RGB", self._rgb(outputs), strict=True):
            same = alpha is own.planes["A"] and self.input_alpha == self.output_alpha
            if same and plane is own.kept.get(n):
                out[n][:] = own.planes[n]  # untouched: bit for bit as it was
                continue
            light = lit(plane) if self.space == "codes" else plane
            given = self._under(n, routes, sides)
            if self.output_alpha == "premultiplied":
                out[n][:] = light
            elif given is None:
                np.multiply(light, alpha, out=out[n])
            else:
                into_alpha(light, *(given[m] for m in RGBA), alpha, np.float32(1), out[n])

    def _rgb(self, outputs: Flat) -> tuple[Plane, Plane, Plane]:
        three = outputs["R"], outputs["G"], outputs["B"]
        if self.outputs == "hls":
            return from_hls(*three)
        return from_ycc(*three, self.weights, self.chroma_range) if self.outputs == "ycc" else three

    def _under(self, name: str, routes: dict[str, Route], sides: dict[str, Any]) -> Flat | None:
        """The source that an output's colour is of; none: it is a plain number.

        Where three outputs make a colour together, the layer itself, if any of them takes colour of it.
        """
        asked = [routes[name]] if self.outputs == "rgb" else [routes[n] for n in "RGB"]
        of = sorted({r.source for r in asked if r.colour and sides[r.source] is not None})
        return sides[of[0]].planes if of else None

    def words(self) -> str:
        changed = self._changed()
        if not changed:
            return "as it was" if self.outputs == "rgb" else f"through {self.outputs}"
        second = self.second.removeprefix("layer:")
        titles = {"R": "red", "G": "green", "B": "blue", "A": "alpha"}
        return "; ".join(f"{titles[n]} from {self.routes[n].words(second)}" for n in changed)  # type: ignore[index]


class _Side:
    """One source on one strip: its channels as they are asked for, each made once."""

    def __init__(self, step: PatchStep, planes: Flat) -> None:
        self.step, self.planes = step, planes
        self.kept: Flat = {}

    def channel(self, name: str) -> Plane:
        if name not in self.kept:
            self._make(name)
        return self.kept[name]

    def _make(self, name: str) -> None:
        step = self.step
        if name == "A" or name not in {"R", "G", "B", *MADE}:
            self.kept[name] = self.planes[name]
        elif name in RGBA:
            plane = self.planes[name]
            if step.input_alpha == "straight":
                straight = np.empty_like(plane)
                out_of_alpha(plane, self.planes["A"], straight)
                plane = straight
            self.kept[name] = coded(plane) if step.space == "codes" else plane
        else:
            r, g, b = (self.channel(n) for n in "RGB")
            if name in {"min", "max"}:
                work = np.minimum if name == "min" else np.maximum
                self.kept[name] = np.asarray(work(work(r, g), b), np.float32)
            elif name == "luma" and step.chroma_range == "full":
                luma = np.empty_like(r)
                weighed(r, g, b, luma, *float32s(*LUMA_WEIGHTS[step.weights]))
                self.kept[name] = luma
            elif name in {"hue", "lightness", "saturation"}:
                self.kept |= dict(zip(_MODELS["hls"], to_hls(r, g, b), strict=True))
            else:
                self.kept |= dict(
                    zip(_MODELS["ycc"], to_ycc(r, g, b, step.weights, step.chroma_range), strict=True)
                )
