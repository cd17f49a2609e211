"""How a delivery will look elsewhere: small pictures of what a form writes."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from ..colour import encode
from ..colour.spaces import is_by_pixel, is_view, space_light
from ..errors import WriteFailed
from ..picture import RGB, PremultipliedPicture, StoredPicture
from .formats import DeliveryFormat
from .write import meant

#: Over grey checks; as who ignores alpha shows it; the flattest gradient, in whole codes or dithered.
Shown = Literal["checks", "ignored", "bands", "dithered"]

#: Width of a small picture, and of the part of a gradient that is shown, in pixels.
WIDTH, GRADIENT = 480, 120
#: Codes of 8 bits that the darkest and the brightest of the part are apart at least when it is shown.
_RAISED = 12
#: Pixels of a check.
_CHECK = 8


def look_of(
    picture: PremultipliedPicture, delivery_format: DeliveryFormat, shown: Shown, frame: int
) -> bytes:
    """A PNG of 8 bits, RGB.

    Parameters
    ----------
    picture : scene-linear, premultiplied over black.
    delivery_format : in which it is written.
    shown : see `Shown`.
    frame : its number; noise that moves goes by it.

    Returns
    -------
    The file's bytes.

    Raises
    ------
    WriteFailed
        The picture could not be encoded.

    Examples
    --------
    >>> from neatveil.delivery import format_named
    >>> grey = PremultipliedPicture.from_rgba(np.full((4, 4, 4), 0.5, np.float32))
    >>> look_of(grey, format_named("png16-straight"), "ignored", 1)[:4]
    b'\\x89PNG'
    """
    if shown in {"bands", "dithered"}:
        pixels = _gradient(picture, delivery_format, shown == "dithered", frame)
    else:
        stored = meant(picture, delivery_format, frame)
        pixels = small(on_screen(stored, delivery_format, checks=shown == "checks"))
    return png_bytes(pixels)


def png_bytes(pixels: NDArray[np.uint8]) -> bytes:
    """The file of ``(H, W, 3)`` R, G, B."""
    done, data = cv2.imencode(".png", np.ascontiguousarray(pixels[..., ::-1]))
    if not done:
        raise WriteFailed("The picture could not be encoded.")
    return bytes(data.tobytes())


def on_screen(stored: StoredPicture, delivery_format: DeliveryFormat, *, checks: bool) -> NDArray[np.float32]:
    """``(H, W, 3)``, 0..1: what a file holds, over grey checks or as who ignores the alpha shows it."""
    codes = screen_codes(stored, delivery_format.encoding)
    if not checks or "A" not in stored.planes:
        return codes
    straight = delivery_format.reading.alpha == "straight"
    return over_checks(codes, np.clip(stored["A"], 0, 1)[..., None], straight=straight)


def screen_codes(stored: StoredPicture, encoding: str) -> NDArray[np.float32]:
    """``(H, W, 3)``, 0..1, as a screen takes them; light is encoded for it."""
    planes = [stored.planes.get(n, stored.planes.get("Y")) for n in RGB]
    codes = np.dstack([p for p in planes if p is not None])
    if is_by_pixel(encoding) and not is_view(encoding):
        light = space_light({n: np.ascontiguousarray(codes[..., c]) for c, n in enumerate(RGB)}, encoding)
        codes, encoding = np.dstack([light[n] for n in RGB]), "linear"
    if encoding == "linear":
        codes = np.dstack([encode(np.ascontiguousarray(codes[..., c]), "srgb") for c in range(3)])
    return np.asarray(np.clip(codes, 0, 1), np.float32)


def over_checks(
    codes: NDArray[np.float32], alpha: NDArray[np.float32], *, straight: bool
) -> NDArray[np.float32]:
    # as large on the screen, whatever the frame's size
    check = max(_CHECK, _CHECK * codes.shape[1] // WIDTH)
    y, x = np.indices(codes.shape[:2]) // check
    checks = np.where((y + x) % 2 == 0, 0.45, 0.6).astype(np.float32)[..., None]
    over = codes * alpha if straight else codes
    return np.asarray(np.clip(over + checks * (1 - alpha), 0, 1), np.float32)


def small(codes: NDArray[np.float32]) -> NDArray[np.uint8]:
    height, width = codes.shape[:2]
    if width > WIDTH:
        size = WIDTH, max(1, round(height * WIDTH / width))
        codes = np.asarray(cv2.resize(codes, size, interpolation=cv2.INTER_AREA), np.float32)
    return np.asarray(np.rint(codes * 255), np.uint8)


def _gradient(
    picture: PremultipliedPicture, delivery_format: DeliveryFormat, dithered: bool, frame: int
) -> NDArray[np.uint8]:
    """The part whose codes change least, but do: in whole codes of 8 bits, its contrast raised."""
    dither = delivery_format.dither if delivery_format.dither != "none" else "stable"
    exact = screen_codes(
        meant(picture, replace(delivery_format, dither="none"), frame), delivery_format.encoding
    )
    top, left = _flattest(exact)
    part = np.s_[top : top + GRADIENT * 9 // 16, left : left + GRADIENT]
    chosen = replace(delivery_format, dither=dither if dithered else "none")
    codes = screen_codes(meant(picture, chosen, frame), delivery_format.encoding)[part]
    codes = np.rint(codes * 255)
    low, high = codes.min(), max(codes.max(), codes.min() + _RAISED)
    raised = np.asarray((codes - low) / (high - low) * 255, np.uint8)
    return np.repeat(np.repeat(raised, 4, axis=0), 4, axis=1)


def _flattest(codes: NDArray[np.float32]) -> tuple[int, int]:
    """Row and column of the part that spans fewest codes, but more than one; else of the middle."""
    height, width = codes.shape[:2]
    down, across = GRADIENT * 9 // 16, GRADIENT
    best, place = np.inf, (max(0, (height - down) // 2), max(0, (width - across) // 2))
    grey = codes.mean(axis=2)
    for top in range(0, max(1, height - down), max(1, down // 2)):
        for left in range(0, max(1, width - across), max(1, across // 2)):
            part = grey[top : top + down, left : left + across]
            span = float(np.percentile(part, 98) - np.percentile(part, 2)) * 255
            if 1.5 < span < best:
                best, place = span, (top, left)
    return place
