"""Numbers of a picture: along a line, in a box, over a frame."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np

from ..channels.luma import LUMA_WEIGHTS
from ..errors import ValueRefused
from ..picture import RGB, Box, Picture, Plane, PremultipliedPicture, StoredPicture, cut, seen_planes
from .display import Look, codes_of_look

#: What is measured, in this order.
MEASURED = ("R", "G", "B", "A", "luma")
#: Most points of a profile.
MOST_POINTS = 1024


@dataclass(frozen=True, slots=True)
class Spread:
    """One channel over a box. ``histogram``: 256 counts from 0 to 1, the ends with all beyond them."""

    mean: float
    spread: float
    low: float
    high: float
    not_numbers: int
    histogram: list[int]


def profile(picture: Picture, line: tuple[float, float, float, float]) -> dict[str, list[float]]:
    """Values along a line from (x0, y0) to (x1, y1), in pixels of the frame, between pixels bilinearly.

    Keys are R, G, B, A, luma (BT.709 weights) and ``distance`` in pixels; about two points a pixel.
    Pixel (0, 0) has its centre at 0.5, 0.5.
    """
    x0, y0, x1, y1 = line
    length = float(np.hypot(x1 - x0, y1 - y0))
    count = int(min(MOST_POINTS, max(2, round(length * 2) + 1)))
    share = np.linspace(0, 1, count, dtype=np.float32)
    box = picture.data_window
    x = (x0 + (x1 - x0) * share - 0.5 - box.x0).astype(np.float32)[None]
    y = (y0 + (y1 - y0) * share - 0.5 - box.y0).astype(np.float32)[None]
    found = {
        n: cv2.remap(p, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)[0]
        for n, p in _planes(picture).items()
    }
    out = {n: [float(v) for v in values] for n, values in found.items()}
    return {"distance": [float(v) for v in share * length], **out}


def straight_profile(
    picture: PremultipliedPicture, line: tuple[float, float, float, float]
) -> dict[str, list[float]]:
    """As `profile`, of the surface colour ``C / a``; 0 where there is none.

    Interpolated before it is divided: an edge's straight colour is that of what covers.
    """
    rows = profile(picture, line)
    for n in (*RGB, "luma"):
        rows[n] = [c / a if a > 1e-4 else 0.0 for c, a in zip(rows[n], rows["A"], strict=True)]
    return rows


def in_codes(picture: Picture, look: Look) -> StoredPicture:
    """The colour, in light, as the codes that a look shows, not clipped; with the alpha. To be measured once
    for all that tells of it: a view may take a third of a second."""
    planes = _planes(picture)
    codes = codes_of_look({n: planes[n] for n in RGB}, look)
    return StoredPicture({**codes, "A": planes["A"]}, picture.data_window, picture.display_window)


def spreads(picture: Picture, box: Box | None = None) -> dict[str, Spread]:
    """Mean, standard deviation, least, most and histogram of each channel over a box of the frame."""
    if box is not None:
        picture = cut(_whole(picture), box.intersect(picture.display_window))
    return {n: _spread(p) for n, p in _planes(picture).items()}


def waveform(picture: Picture, rows: int = 64, columns: int = 256) -> dict[str, list[list[int]]]:
    """How many pixels of each part of the width have each value: ``rows`` of ``columns`` counts.

    The first row is code 255 (1) and above, the last 0 and below. R, G, B and luma.
    """
    found = {}
    for name, plane in _planes(picture).items():
        if name == "A":
            continue
        height, width = plane.shape
        level = np.clip(np.nan_to_num(plane) * rows, 0, rows - 1).astype(np.int64)
        place = np.broadcast_to(np.arange(width) * columns // max(width, 1), (height, width))
        counts = np.bincount((level * columns + place).reshape(-1), minlength=rows * columns)
        found[name] = counts.reshape(rows, columns)[::-1].tolist()
    return found


def _whole(picture: Picture) -> Picture:
    """With R, G, B and A, as `cut` wants it."""
    planes = _planes(picture)
    return picture.with_planes({n: planes[n] for n in (*RGB, "A")})


def _planes(picture: Picture) -> Mapping[str, Plane]:
    seen = seen_planes(picture)
    if seen is None:
        raise ValueRefused(f"The picture has {', '.join(picture.planes)} and no colour.")
    r, g, b = seen[0].values()
    alpha = picture.planes.get("A")
    wr, wg, wb = (np.float32(w) for w in LUMA_WEIGHTS["bt709"])
    luma: Plane = wr * r + wg * g + wb * b
    return {"R": r, "G": g, "B": b, "A": np.ones_like(r) if alpha is None else alpha, "luma": luma}


def _spread(plane: Plane) -> Spread:
    sound = plane[np.isfinite(plane)]
    bad = int(plane.size - sound.size)
    if sound.size == 0:
        return Spread(0.0, 0.0, 0.0, 0.0, bad, [0] * 256)
    codes = np.clip(np.rint(sound * np.float32(255)), 0, 255).astype(np.uint8)
    counts = np.bincount(codes.reshape(-1), minlength=256)
    mean, spread = float(sound.mean(dtype=np.float64)), float(sound.std(dtype=np.float64))
    return Spread(mean, spread, float(sound.min()), float(sound.max()), bad, [int(c) for c in counts])
