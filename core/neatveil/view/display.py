"""Pictures as 8-bit sRGB display values, by what people want to look at."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field, field_validator

from ..channels.luma import LUMA_WEIGHTS
from ..colour.baked import baked_view, bytes_of_steps, show_baked
from ..colour.encodings import decode, encode
from ..colour.spaces import is_view, space_codes, views_of
from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGB, RGBA, Box, Plane, PremultipliedPicture
from .codes import CODES, NEXT, codes_of_row

CHANNELS = ("colour", "rgb", "alpha", "red", "green", "blue", "luma", "straight", "band", "tint")
BACKGROUNDS = ("checks", "black", "white", "colour")

#: The two greys of the checkerboard and its squares: neutral, apart from black and white (code values).
CHECK_DARK, CHECK_LIGHT, CHECK_SIZE = 0.36, 0.52, 12
#: Alpha nearer to 0 or 1 than this is no edge; the light around the band; the tint, as light.
EDGE, OUTSIDE_BAND = 0.002, np.float32(0.06)
TINT, TINT_STRENGTH = (0.75, 0.02, 0.3), 0.6


class Look(BaseModel):
    """What is shown of a picture.

    ``colour`` lies over the background; ``rgb`` ignores alpha; ``straight`` is ``C / a``;
    ``alpha``, ``red``, ``green``, ``blue`` and ``luma`` (BT.709 weights) are shown as grey; ``band`` is the
    straight colour where the alpha lies between 0 and 1, the rest a flat grey; ``tint`` is the picture
    with a colour over what its alpha removes.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    channel: Literal["colour", "rgb", "alpha", "red", "green", "blue", "luma", "straight", "band", "tint"] = (
        "colour"
    )
    background: Literal["checks", "black", "white", "colour"] = "checks"
    colour: tuple[float, float, float] = Field(
        (0.0, 0.6, 0.3), description="Background colour, sRGB code values 0..1."
    )
    exposure: float = Field(0.0, ge=-20, le=20, description="Stops by which the light is raised for the eye.")
    gamma: float = Field(1.0, ge=0.1, le=10, description="Power of 1 over it on what is shown.")
    through: str = Field(
        "", max_length=200, description="A view of an OpenColorIO configuration; empty shows sRGB."
    )

    @field_validator("through")
    @classmethod
    def _known(cls, name: str) -> str:
        known = is_view(name) and name in {v.name for v in views_of(name.partition("/")[0])}
        if name and not known:
            raise ValueError(f"{name!r} is no view of a colour configuration")
        return name

    @property
    def as_it_is(self) -> bool:
        """Whether light is shown by the sRGB curve alone."""
        return self.exposure == 0 and self.gamma == 1 and not self.through


@kernel
def _show_over(c, a, even, odd, first_row, square, codes, following, out):  # type: ignore[no-untyped-def]
    light, cells = np.empty(c.shape[1], np.float32), np.empty(c.shape[1], np.uint16)
    for y in range(c.shape[0]):
        under = even if ((first_row + y) // square) % 2 == 0 else odd
        row, alpha = c[y], a[y]
        for i in range(row.size):
            light[i] = row[i] + under[i] * (np.float32(1) - alpha[i])
        codes_of_row(light, cells, codes, following, out[y])


@kernel
def _show_straight(c, a, codes, following, out):  # type: ignore[no-untyped-def]
    light, cells = np.empty(c.shape[1], np.float32), np.empty(c.shape[1], np.uint16)
    for y in range(c.shape[0]):
        row, alpha = c[y], a[y]
        for i in range(row.size):
            light[i] = row[i] / (alpha[i] if alpha[i] > 0 else np.float32(1))
        codes_of_row(light, cells, codes, following, out[y])


@kernel
def _show(c, codes, following, out):  # type: ignore[no-untyped-def]
    light, cells = np.empty(c.shape[1], np.float32), np.empty(c.shape[1], np.uint16)
    for y in range(c.shape[0]):
        light[:] = c[y]
        codes_of_row(light, cells, codes, following, out[y])


@kernel
def _show_alpha(a, out):  # type: ignore[no-untyped-def]
    for y in range(a.shape[0]):
        row, target = a[y], out[y]
        for i in range(row.size):
            v = min(max(row[i], np.float32(0)), np.float32(1))
            target[i] = np.uint8(np.int32(v * np.float32(255) + np.float32(0.5)))


class Screen:
    """8-bit values that take a picture strip by strip; see `display`.

    ``layout``: ``bgr`` is for what passes: a view is shown by its table then, and by its own transforms in
    ``rgbx``. ``out`` holds the bytes; ``take`` may be called on several threads, for different rows.
    """

    def __init__(self, look: Look, box: Box, layout: Literal["rgbx", "bgr"] = "rgbx") -> None:
        self.look = look
        self.box = box
        self.out: NDArray[np.uint8] = new_array(
            (box.height, box.width, 4 if layout == "rgbx" else 3), np.uint8
        )
        self._under = _background_rows(look, box)
        self._places = (0, 1, 2) if layout == "rgbx" else (2, 1, 0)
        # what passes is shown by a table: see `baked`
        passing = layout == "bgr" and look.channel != "alpha"
        self._baked = baked_view(look.through) if look.through and passing else None

    def take(self, y0: int, y1: int, planes: Mapping[str, Plane]) -> None:
        """Rows y0 to y1 of the box: R, G, B, A, premultiplied light."""
        colours = [self.out[y0:y1, :, i] for i in self._places]
        if self.look.as_it_is or self.look.channel == "alpha":
            _show_strip(planes, self.look.channel, self._under, self.box.y0 + y0, colours)
        else:
            shown = _shown_light(planes, self.look.channel, self._under, self.box.y0 + y0)
            self._show(shown, colours)
        if self.out.shape[2] == 4:
            self.out[y0:y1, :, 3] = 255

    def _show(self, shown: list[Plane], out: list[NDArray[np.uint8]]) -> None:
        gain = np.float32(2.0**self.look.exposure)
        if self._baked is not None:
            show_baked(*shown, gain, self._baked.table, bytes_of_steps(self.look.gamma), *out)
        elif self.look.through or self.look.gamma != 1:
            _show_through(shown, self.look, out)
        else:
            for plane, target in zip(shown, out, strict=True):
                _show(plane * gain, CODES, NEXT, target)


def display(picture: PremultipliedPicture, look: Look) -> NDArray[np.uint8]:
    """``(H, W, 4)`` uint8 R, G, B, 255: sRGB-encoded, clipped to 0..1, rounded to nearest.

    The background is laid under the picture in linear light. Source of the encoding: IEC
    61966-2-1:1999 [IEC61966-2-1].
    """
    screen = Screen(look, picture.data_window)
    show(picture, screen)
    return screen.out


def show(picture: PremultipliedPicture, screen: Screen) -> None:
    """A whole picture onto a screen of the size of its data window."""

    def strip(y0: int, y1: int) -> None:
        screen.take(y0, y1, {n: picture[n][y0:y1] for n in RGBA})

    for_strips(screen.box.height, screen.box.width, strip)


def _show_strip(
    planes: Mapping[str, Plane],
    channel: str,
    under: list[list[Plane]],
    first_row: int,
    out: list[NDArray[np.uint8]],
) -> None:
    if channel == "alpha":
        _show_alpha(planes["A"], out[0])
        out[1][:] = out[2][:] = out[0]
    elif channel == "colour":
        for i, n in enumerate(RGB):
            even, odd = under[0][i], under[1][i]
            _show_over(planes[n], planes["A"], even, odd, first_row, CHECK_SIZE, CODES, NEXT, out[i])
    elif channel == "straight":
        for i, n in enumerate(RGB):
            _show_straight(planes[n], planes["A"], CODES, NEXT, out[i])
    else:
        light = _shown_light(planes, channel, under, first_row)
        _show(light[0], CODES, NEXT, out[0])
        for i in (1, 2):
            if light[i] is light[0]:  # grey
                out[i][:] = out[0]
            else:
                _show(light[i], CODES, NEXT, out[i])


def luma_of(planes: Mapping[str, Plane]) -> Plane:
    wr, wg, wb = (np.float32(w) for w in LUMA_WEIGHTS["bt709"])
    return np.asarray(wr * planes["R"] + wg * planes["G"] + wb * planes["B"], np.float32)


def _shown_light(
    planes: Mapping[str, Plane], channel: str, under: list[list[Plane]], first_row: int
) -> list[Plane]:
    """R, G, B of what a look shows, in light."""
    single = {"red": "R", "green": "G", "blue": "B"}.get(channel)
    if single:
        return [planes[single]] * 3
    if channel == "luma":
        return [luma_of(planes)] * 3
    if channel in {"band", "tint"}:
        return (_band if channel == "band" else _tinted)(planes)
    if channel == "rgb":
        return [planes[n] for n in RGB]
    alpha = planes["A"]
    if channel == "straight":
        return [np.asarray(planes[n] / np.where(alpha > 0, alpha, 1), np.float32) for n in RGB]
    squares = (first_row + np.arange(alpha.shape[0])) // CHECK_SIZE % 2
    below = [np.where(squares[:, None] == 0, under[0][i], under[1][i]) for i in range(3)]
    over = zip(RGB, below, strict=True)
    return [np.asarray(planes[n] + b * (1 - alpha), np.float32) for n, b in over]


def codes_of_look(planes: Mapping[str, Plane], look: Look) -> dict[str, Plane]:
    """Light R, G, B ``(H, W)`` as the codes that a look shows, not clipped: its exposure, view and gamma."""
    gain = np.float32(2.0**look.exposure)
    light = {n: np.ascontiguousarray(planes[n] * gain, np.float32) for n in RGB}
    codes = space_codes(light, look.through) if look.through else {n: encode(light[n], "srgb") for n in RGB}
    if look.gamma == 1:
        return codes
    return {n: np.maximum(codes[n], 0) ** np.float32(1 / look.gamma) for n in RGB}


def _show_through(light: list[Plane], look: Look, out: list[NDArray[np.uint8]]) -> None:
    codes = codes_of_look(dict(zip(RGB, light, strict=True)), look)
    for target, n in zip(out, RGB, strict=True):
        target[:] = np.rint(np.clip(np.nan_to_num(codes[n]), 0, 1) * 255)


def _band(planes: Mapping[str, Plane]) -> list[Plane]:
    """Straight colour where a pixel is partly covered."""
    alpha = planes["A"]
    inside = (alpha > EDGE) & (alpha < 1 - EDGE)
    whole = np.where(inside, alpha, np.float32(1))
    return [np.where(inside, planes[n] / whole, OUTSIDE_BAND).astype(np.float32) for n in RGB]


def _tinted(planes: Mapping[str, Plane]) -> list[Plane]:
    removed = np.float32(TINT_STRENGTH) * (1 - np.clip(planes["A"], 0, 1))
    return [planes[n] * (1 - removed) + removed * np.float32(t) for n, t in zip(RGB, TINT, strict=True)]


def _background_rows(look: Look, box: Box) -> list[list[Plane]]:
    """R, G, B of one row of the background in light, for even and for odd rows of squares."""
    a, b = _background(look)
    squares = (np.arange(box.x0, box.x1) // CHECK_SIZE) % 2
    even = [np.where(squares == 0, a[i], b[i]).astype(np.float32) for i in range(3)]
    odd = [np.where(squares == 0, b[i], a[i]).astype(np.float32) for i in range(3)]
    return [even, odd]


def _background(look: Look) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """The two colours of the background in light: they differ for the checkerboard only."""
    pairs = {
        "checks": ((CHECK_DARK,) * 3, (CHECK_LIGHT,) * 3),
        "black": ((0.0,) * 3,) * 2,
        "white": ((1.0,) * 3,) * 2,
        "colour": (look.colour,) * 2,
    }
    light_a, light_b = (decode(np.array([c], np.float32), "srgb")[0] for c in pairs[look.background])
    return light_a, light_b
