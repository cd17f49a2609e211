"""The paper kite, as somebody sent it: multiplied over a colour in code values, and saying nothing of it."""

from __future__ import annotations

import numpy as np
from neatveil.picture import StoredPicture

from .brushes import lay_rgba, line, polygon

WIDTH, HEIGHT = 960, 720
#: The colour it was multiplied over, sRGB-like code values.
MATTE = (0.12, 0.72, 0.38)


def kite(frame: int) -> StoredPicture:
    """R', G', B', A of one frame, code values."""
    phase = frame / 48 * 2 * np.pi
    angle = 0.35 * np.sin(phase)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    centre = np.array([430 + 120 * np.sin(phase), 290 + 50 * np.sin(2 * phase)])

    def at(*points: tuple[float, float]) -> np.ndarray:
        return np.array(points) @ turn.T + centre

    out = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    top, left, right, bottom, middle = (0, -190), (-120, -40), (120, -40), (0, 190), (0, -40)
    s = np.linspace(0, 1, 40)
    tail = at(*[(46 * np.sin(9 * t - 2 * phase) * t, 190 + 270 * t) for t in s])
    lay_rgba(out, line((HEIGHT, WIDTH), tail, 5), (0.93, 0.90, 0.84))
    for t in (0.3, 0.55, 0.8):
        i = int(t * 39)
        x, y = tail[i]
        bow = np.array([[x - 20, y - 10], [x + 20, y + 10], [x + 20, y - 10], [x - 20, y + 10]])
        lay_rgba(out, polygon((HEIGHT, WIDTH), bow), (0.80, 0.30, 0.24))
    lay_rgba(out, polygon((HEIGHT, WIDTH), at(top, left, middle)), (0.92, 0.72, 0.30))
    lay_rgba(out, polygon((HEIGHT, WIDTH), at(top, middle, right)), (0.82, 0.34, 0.26))
    lay_rgba(out, polygon((HEIGHT, WIDTH), at(left, bottom, middle)), (0.86, 0.64, 0.26), 0.92)
    lay_rgba(out, polygon((HEIGHT, WIDTH), at(middle, bottom, right)), (0.72, 0.28, 0.24), 0.92)
    lay_rgba(out, line((HEIGHT, WIDTH), at(top, bottom), 5), (0.45, 0.30, 0.20))
    lay_rgba(out, line((HEIGHT, WIDTH), at(left, right), 5), (0.45, 0.30, 0.20))
    alpha = out[..., 3]
    planes = {n: out[..., i] + np.float32(MATTE[i]) * (1 - alpha) for i, n in enumerate("RGB")}
    return StoredPicture({**planes, "A": np.ascontiguousarray(alpha)})
