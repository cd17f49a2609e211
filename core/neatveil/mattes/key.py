"""A key: keeps the subject in front of a green or blue screen, or what differs from a clean plate.

Colour difference: a pixel holds the share ``d / D`` of the screen. ``d`` is the screen's channel less the
limit of the other two, 0 where the limit is greater, and ``D`` the same of the clean screen. The limit is
the greater of the others, as of Vlahos 1971 [Vlahos1971], or lies between that and the lesser by the
balance. In linear light this is exact for whatever lets the screen through in part, such as hair and motion
blur, where the subject itself has no more of the screen's channel than of another.

Difference: the greatest of the channels' distances from the plate, of sRGB codes. Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..channels.screens import SCREENS
from ..colour.codes import coded
from ..colour.working import IsLight
from ..errors import ValueRefused
from ..numeric.jit import inline, kernel
from ..picture import RGB, Plane
from .part import PicturePart, Rows
from .screen_surface import surface_of

_Light = Annotated[float, Field(ge=0, le=1000)]
#: Share of a screen's strongest channel by which it must stand out.
_LEAST = 0.05


@inline
def _excess(screen, one, two, balance):  # type: ignore[no-untyped-def]
    high, low = max(one, two), min(one, two)
    return max(np.float32(0), screen - (high + balance * (low - high)))


@kernel
def _over_even(screen, one, two, balance, whole, out):  # type: ignore[no-untyped-def]
    inverse = np.float32(1) / whole
    for i in range(out.size):
        out[i] = np.float32(1) - _excess(screen[i], one[i], two[i], balance) * inverse


@kernel
def _over_surface(screen, one, two, balance, c, first, height, least, out):  # type: ignore[no-untyped-def]
    """``c``: of the surface 1, x, y, x x, x y, y y; x and y from -1 to 1 over the whole picture."""
    width = out.shape[1]
    for row in range(out.shape[0]):
        y = np.float32(2) * (np.float32(first + row) + np.float32(0.5)) / height - np.float32(1)
        start = c[0] + c[2] * y + c[5] * y * y
        slope = c[1] + c[4] * y
        for i in range(width):
            x = np.float32(2) * (np.float32(i) + np.float32(0.5)) / np.float32(width) - np.float32(1)
            whole = max(least, start + slope * x + c[3] * x * x)
            out[row, i] = np.float32(1) - _excess(screen[row, i], one[row, i], two[row, i], balance) / whole


@kernel
def _over_plate(screen, one, two, pc, p1, p2, balance, least, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        whole = max(least, _excess(pc[i], p1[i], p2[i], balance))
        out[i] = np.float32(1) - _excess(screen[i], one[i], two[i], balance) / whole


@kernel
def _surface(c, first, height, least, whole, out):  # type: ignore[no-untyped-def]
    """How much brighter than the picked colour the screen is there; ``c`` as above."""
    width = out.shape[1]
    for row in range(out.shape[0]):
        y = np.float32(2) * (np.float32(first + row) + np.float32(0.5)) / height - np.float32(1)
        for i in range(width):
            x = np.float32(2) * (np.float32(i) + np.float32(0.5)) / np.float32(width) - np.float32(1)
            value = c[0] + c[1] * x + c[2] * y + c[3] * x * x + c[4] * x * y + c[5] * y * y
            out[row, i] = max(least, value) / whole


@kernel
def _taken_out(value, share, screen, alpha, out):  # type: ignore[no-untyped-def]
    """``(C - (1 - a) B) / a``: what stands before the screen, as if it were there in full."""
    zero, one, least = np.float32(0), np.float32(1), np.float32(1 / 64)
    for i in range(out.size):
        a = min(one, max(zero, share[i]))
        out[i] = max(zero, value[i] - (one - a) * screen[i] * alpha[i]) / max(a, least)


@kernel
def _distance(r, g, b, pr, pg, pb, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = max(abs(r[i] - pr[i]), max(abs(g[i] - pg[i]), abs(b[i] - pb[i])))


@kernel
def _cleaned(x, out, black, white, inverted):  # type: ignore[no-untyped-def]
    zero, one = np.float32(0), np.float32(1)
    inverse = one / (white - black)
    for i in range(x.size):
        v = (x[i] - black) * inverse
        v = min(one, max(zero, v)) if v == v else zero
        out[i] = one - v if inverted else v


#: The most that is taken for a screen's noise: an area of which more is kept is not clean.
_NOISE = 0.25


def black_point_of(kept: Plane) -> float:
    """The black point under which a clean area of the screen is removed, but for five pixels in a thousand.

    ``kept``: what the key keeps of it with ends of 0 and 1. At most `_NOISE`; rounded up to thousandths.
    """
    sound = kept[np.isfinite(kept)]
    noise = float(np.quantile(sound, 0.995)) if sound.size else 0.0
    return min(_NOISE, float(np.ceil(noise * 1000)) / 1000)


#: The least that is taken for the white point: what keeps less is half screen rather than a subject's core.
_WHITE = 0.45
#: What the key keeps in a core, at least; how much it may change there across a reach of pixels, smoothed;
#: the share of a core below the white point, and that of a picture that a core has at least.
_CORE, _EVEN, _BELOW, _SEEN = 0.5, 0.06, 0.01, 0.002


def white_point_of(kept: Plane, black: float) -> float:
    """The white point over which the core of the subject is whole, but for a few pixels.

    ``kept``: ``(h, w)``, what the key keeps with ends of 0 and 1. A core is where it keeps much and about the
    same all around: edges and motion blur rise there, so that they say nothing. 1 where no core is seen; at
    least `_WHITE`, and a tenth above ``black``; rounded down to thousandths. Common practice, no source.
    """
    plane = np.nan_to_num(np.clip(kept, 0, 1)).astype(np.float32)
    reach = max(2, round(plane.shape[0] / 120))
    smooth = cv2.blur(plane, (2 * reach + 1, 2 * reach + 1))
    around = np.ones((2 * reach + 1, 2 * reach + 1), np.uint8)
    low, high = cv2.erode(smooth, around), cv2.dilate(smooth, around)
    core = plane[(low > _CORE) & (high - low < _EVEN)]
    if core.size < _SEEN * plane.size:
        return 1.0
    found = float(np.floor(np.quantile(core, _BELOW) * 1000)) / 1000
    return min(1.0, max(_WHITE, black + 0.1, found))


class KeyPart(PicturePart):
    """A key of the layer itself or of another source."""

    title: ClassVar[str] = "Key of a green or blue screen"

    kind: Literal["key"] = "key"
    by: Literal["screen", "plate"] = Field(
        "screen", title="by", description="The colour of the screen, or the difference from a clean plate.",
        json_schema_extra={"labels": {"screen": "Screen colour", "plate": "Difference from a clean plate"}},
    )  # fmt: skip
    screen_colour: Annotated[tuple[_Light, _Light, _Light], IsLight()] = Field(
        (0.05, 0.35, 0.08), title="screen colour", description="Linear light of the clean screen.",
        json_schema_extra={"unit": "colour"},
    )  # fmt: skip
    evenness: Literal["even", "uneven", "plate"] = Field(
        "even", title="screen is",
        description="uneven: brighter in places, measured around the subject; plate: as in a clean plate.",
        json_schema_extra={"labels": {"even": "Even", "uneven": "Uneven", "plate": "As in a plate"}},
    )  # fmt: skip
    plate: str = Field(
        "", pattern=r"^((layer:)?[A-Za-z0-9_-]{1,64})?$", title="clean plate",
        description="The same shot without the subject.", json_schema_extra={"unit": "source"},
    )  # fmt: skip
    balance: float = Field(
        0.0, ge=0, le=1, title="balance", description="0 measures against the greater of the other channels, "
        "1 against the lesser: yellow and cyan then count as screen in part.",
        json_schema_extra={"slider": [0, 1]},
    )  # fmt: skip
    black: float = Field(
        0.0, ge=-10, le=10, title="black point",
        description="What the key keeps less of than this is removed.",
        json_schema_extra={"slider": [0, 0.5]},
    )  # fmt: skip
    white: float = Field(
        1.0, ge=-10, le=10, title="white point",
        description="What the key keeps more of than this is kept in full.",
        json_schema_extra={"slider": [0.5, 1]},
    )  # fmt: skip

    @property
    def second(self) -> str:
        return self.plate if self.by == "plate" or self.evenness == "plate" else ""

    @property
    def surveys(self) -> bool:
        return self.by == "screen" and self.evenness == "uneven"

    @property
    def _order(self) -> tuple[str, str, str]:
        """The screen's channel and the two others."""
        screen, one, two = SCREENS["green" if self.screen_colour[1] >= self.screen_colour[2] else "blue"]
        return RGB[screen], RGB[one], RGB[two]

    def _limit(self, one: Plane | float, two: Plane | float) -> Any:
        """What the screen's channel is measured against, from the two others."""
        high, low = np.maximum(one, two), np.minimum(one, two)
        return high + self.balance * (low - high)

    def whole(self) -> float:
        """The clean screen's difference; `ValueRefused` where its colour is none of a screen."""
        screen, one, two = (self.screen_colour[RGB.index(n)] for n in self._order)
        found = screen - float(self._limit(one, two))
        if found <= _LEAST * screen or screen <= 0:
            colour = ", ".join(f"{v:.3f}" for v in self.screen_colour)
            raise ValueRefused(
                f"The screen colour ({colour}) is neither green nor blue.",
                advice="Mark a clean area of the screen, or key by another channel.",
            )
        return found

    def survey(self, planes: Mapping[str, Plane]) -> tuple[float, ...] | None:
        screen, one, two = (planes[n] for n in self._order)
        excess = np.maximum(0, screen - self._limit(one, two))
        return surface_of(np.asarray(excess, np.float32), self.whole())

    def values(self, rows: Rows) -> Plane:
        if self.second == "" and (self.by == "plate" or self.evenness == "plate"):
            raise ValueRefused(
                "The key has no clean plate.",
                advice="Choose the element that shows the shot without the subject.",
            )
        if self.by == "plate":
            assert rows.second is not None
            theirs = [coded(np.ascontiguousarray(rows.second[n]).reshape(-1)) for n in "RGB"]
            ours = [coded(np.ascontiguousarray(rows.planes[n]).reshape(-1)) for n in "RGB"]
            out = np.empty(rows.planes["R"].shape, np.float32)
            _distance(*ours, *theirs, out.reshape(-1))
            return out
        return self._shares(rows)

    def _shares(self, rows: Rows) -> Plane:
        whole = np.float32(self.whole())
        least, balance = whole * np.float32(0.1), np.float32(self.balance)
        block = [np.ascontiguousarray(rows.planes[n]) for n in self._order]
        flat = [p.reshape(-1) for p in block]
        out = np.empty(block[0].shape, np.float32)
        if rows.survey is not None:
            surface = np.array(rows.survey, np.float32)
            _over_surface(*block, balance, surface, rows.first, np.float32(rows.height), least, out)
        elif self.second and rows.second is not None:
            plate = [np.ascontiguousarray(rows.second[n]).reshape(-1) for n in self._order]
            _over_plate(*flat, *plate, balance, least, out.reshape(-1))
        else:
            _over_even(*flat, balance, whole, out.reshape(-1))
        return out

    def remove_screen(self, rows: Rows) -> dict[str, Plane]:
        """R, G, B ``(rows, W)``, with the screen's light taken out of every pixel that holds a share of it.

        What comes out is as bright as if it were there in full: the matte keeps the share of it that is.
        """
        share = self._shares(rows)
        shape = share.shape
        if rows.second is not None and self.second:
            screen = {n: np.ascontiguousarray(rows.second[n]) for n in "RGB"}
        else:
            lighter = np.ones(shape, np.float32)
            if rows.survey is not None:
                whole = np.float32(self.whole())
                surface = np.array(rows.survey, np.float32)
                _surface(
                    surface, rows.first, np.float32(rows.height), whole * np.float32(0.1), whole, lighter
                )
            screen = {
                n: np.asarray(lighter * np.float32(v)) for n, v in zip("RGB", self.screen_colour, strict=True)
            }
        alpha = np.ascontiguousarray(rows.planes["A"]).reshape(-1)
        found = {}
        for n in "RGB":
            found[n] = np.empty(shape, np.float32)
            flat = np.ascontiguousarray(rows.planes[n]).reshape(-1)
            _taken_out(flat, share.reshape(-1), screen[n].reshape(-1), alpha, found[n].reshape(-1))
        return found

    def kept(self, values: Plane, out: Plane | None = None) -> Plane:
        if out is None:
            out = np.empty(values.shape, np.float32)
        black, white = np.float32(self.black), np.float32(self.white)
        white = white if white != black else black + np.float32(1e-6)
        flat = np.ascontiguousarray(values).reshape(-1)
        _cleaned(flat, out.reshape(-1), black, white, self.inverted)
        return out
