"""Pictures as 8-bit sRGB display values, by what people want to look at."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from ..colour.encodings import decode, encode_value, encoding_named
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGB, RGBA, Box, Plane, PremultipliedPicture

CHANNELS = ("colour", "rgb", "alpha", "red", "green", "blue", "straight")
BACKGROUNDS = ("checks", "black", "white", "colour")

#: The two greys of the checkerboard and its squares: neutral, apart from black and white (code values).
CHECK_DARK, CHECK_LIGHT, CHECK_SIZE = 0.36, 0.52, 12


class Look(BaseModel):
    """What is shown of a picture.

    ``colour`` lies over the background; ``rgb`` ignores alpha; ``straight`` is ``C / a``;
    ``alpha``, ``red``, ``green`` and ``blue`` are shown as grey.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    channel: Literal["colour", "rgb", "alpha", "red", "green", "blue", "straight"] = "colour"
    background: Literal["checks", "black", "white", "colour"] = "checks"
    colour: tuple[float, float, float] = Field(
        (0.0, 0.6, 0.3), description="Background colour, sRGB code values 0..1."
    )


# One plane at a time into plain arrays, so that the compiler vectorises each loop: four times
# faster than one loop that writes R, G, B, A side by side.


@kernel
def _over_rows(c, a, even, odd, first_row, square, out):  # type: ignore[no-untyped-def]
    for y in range(c.shape[0]):
        under = even if ((first_row + y) // square) % 2 == 0 else odd
        row, alpha, target = c[y], a[y], out[y]
        for i in range(row.size):
            target[i] = row[i] + under[i] * (np.float32(1) - alpha[i])


@kernel
def _straight(c, a, out):  # type: ignore[no-untyped-def]
    for i in range(c.size):
        out[i] = c[i] / (a[i] if a[i] > 0 else np.float32(1))


@kernel
def _bytes_of_light(c, out, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    for i in range(c.size):
        v = min(max(c[i], np.float32(0)), np.float32(1))
        e = encode_value(v, slope, offset, exponent, b_lin, b_enc)
        out[i] = np.uint8(np.int32(e * np.float32(255) + np.float32(0.5)))


@kernel
def _bytes_of_alpha(a, out):  # type: ignore[no-untyped-def]
    for i in range(a.size):
        v = min(max(a[i], np.float32(0)), np.float32(1))
        out[i] = np.uint8(np.int32(v * np.float32(255) + np.float32(0.5)))


def display(picture: PremultipliedPicture, look: Look) -> NDArray[np.uint8]:
    """``(H, W, 4)`` uint8 R, G, B, 255: sRGB-encoded, clipped to 0..1, rounded to nearest.

    The background is laid under the picture in linear light. Source of the encoding: IEC
    61966-2-1:1999 [IEC61966-2-1].
    """
    box = picture.data_window
    out = np.empty((box.height, box.width, 4), np.uint8)
    under = _background_rows(look, box)

    def strip(y0: int, y1: int) -> None:
        planes = {n: picture[n][y0:y1] for n in RGBA}
        bytes_ = _strip_bytes(planes, look.channel, under, box.y0 + y0)
        cv2.merge([*bytes_, np.full_like(bytes_[0], 255)], out[y0:y1])

    for_strips(box.height, box.width, strip)
    return out


def _strip_bytes(
    planes: dict[str, Plane], channel: str, under: list[list[Plane]], first_row: int
) -> list[NDArray[np.uint8]]:
    alpha = planes["A"]
    if channel == "alpha":
        grey = np.empty(alpha.shape, np.uint8)
        _bytes_of_alpha(alpha.reshape(-1), grey.reshape(-1))
        return [grey] * 3
    single = {"red": "R", "green": "G", "blue": "B"}.get(channel)
    if single:
        return [_encoded(planes[single])] * 3
    result = []
    light = np.empty_like(alpha)
    for i, n in enumerate(RGB):
        if channel == "rgb":
            light = planes[n]
        elif channel == "straight":
            _straight(planes[n].reshape(-1), alpha.reshape(-1), light.reshape(-1))
        else:
            _over_rows(planes[n], alpha, under[0][i], under[1][i], first_row, CHECK_SIZE, light)
        result.append(_encoded(light))
    return result


def _encoded(light: Plane) -> NDArray[np.uint8]:
    out = np.empty(light.shape, np.uint8)
    _bytes_of_light(light.reshape(-1), out.reshape(-1), *encoding_named("srgb").numbers())
    return out


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
