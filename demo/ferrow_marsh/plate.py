"""The boardwalk at dusk: the plate, as 8-bit sRGB code values."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np

from .brushes import HEIGHT, WIDTH, Array, lay, line, polygon

HORIZON = 620
REEDS = [
    (70, 0.9),
    (150, 1.2),
    (235, 0.7),
    (330, 1.0),
    (1490, 1.1),
    (1600, 0.8),
    (1700, 1.25),
    (1810, 0.95),
    (1880, 0.7),
]


def _blend(stops: list[tuple[float, tuple[float, float, float]]], t: Array) -> Array:
    at = [s[0] for s in stops]
    return np.stack([np.interp(t, at, [s[1][i] for s in stops]) for i in range(3)], -1).astype(np.float32)


SKY = [
    (0.0, (0.42, 0.50, 0.58)),
    (0.55, (0.72, 0.66, 0.60)),
    (0.85, (0.93, 0.76, 0.58)),
    (1.0, (0.95, 0.70, 0.50)),
]


@cache
def _still() -> Array:
    """Everything that does not move: sky, hills, water without ripples, boardwalk."""
    out = np.empty((HEIGHT, WIDTH, 3), np.float32)
    rows = np.linspace(0, 1, HORIZON, dtype=np.float32)
    out[:HORIZON] = _blend(SKY, rows)[:, None]
    depth = np.linspace(0, 1, HEIGHT - HORIZON, dtype=np.float32)
    out[HORIZON:] = _blend(
        [(0, (0.80, 0.66, 0.52)), (0.5, (0.55, 0.55, 0.52)), (1, (0.30, 0.36, 0.38))], depth
    )[:, None]
    x = np.arange(0, WIDTH + 1, 8, dtype=float)
    for height, colour in ((95, (0.52, 0.55, 0.52)), (50, (0.36, 0.42, 0.38))):
        y = HORIZON - height * (0.55 + 0.3 * np.sin(x / 310 + height) + 0.15 * np.sin(x / 97 + 2))
        ridge = np.vstack([np.column_stack([x, y]), [[WIDTH, HORIZON], [0, HORIZON]]])
        lay(out, polygon((HEIGHT, WIDTH), ridge, 2), colour)
    deck = np.array([[905.0, HORIZON + 30], [1015, HORIZON + 30], [1420, HEIGHT], [520, HEIGHT]])
    lay(out, polygon((HEIGHT, WIDTH), deck, 2), (0.42, 0.34, 0.27))
    for k in range(1, 15):
        y = HORIZON + 30 + (HEIGHT - HORIZON - 30) * (k / 15) ** 1.8
        t = (y - HORIZON - 30) / (HEIGHT - HORIZON - 30)
        gap = np.array([[905 - 385 * t, y], [1015 + 405 * t, y]])
        lay(out, line((HEIGHT, WIDTH), gap, 1 + 6 * t, 2), (0.27, 0.21, 0.17))
    return out


def _reed(x: float, size: float, frame: int, side: int) -> tuple[np.ndarray, np.ndarray]:
    bend = np.sin(frame / 48 * 2 * np.pi + x / 140) * 16 * size
    s = np.linspace(0, 1, 24)
    stalk = np.column_stack([x + side * 22 * s**2 + bend * s**2, HEIGHT - 560 * size * s])
    return stalk, stalk[-6:]


def plate(frame: int) -> Array:
    """One frame ``(1080, 1920, 3)`` of code values 0..1; reeds sway and the water moves over 48 frames."""
    out = _still().copy()
    yy = np.arange(HORIZON, HEIGHT, dtype=np.float32)[:, None]
    xx = np.arange(WIDTH, dtype=np.float32)[None]
    near = (yy - HORIZON) / (HEIGHT - HORIZON)
    phase = frame / 48 * 2 * np.pi
    ripple = np.sin(yy**1.15 / (2 + 10 * near) + 0.004 * xx + 2 * np.sin(xx / 210 + phase)) * (
        0.006 + 0.02 * near
    )
    water = np.abs(xx - 965) > 75 + 420 * near
    out[HORIZON:] += (ripple * water)[..., None]
    for i, (x, size) in enumerate(REEDS):
        stalk, head = _reed(x, size, frame, 1 if i % 2 else -1)
        lay(out, line((HEIGHT, WIDTH), stalk, 5 * size, 2), (0.20, 0.20, 0.14))
        lay(out, line((HEIGHT, WIDTH), head, 22 * size, 2), (0.31, 0.21, 0.13))
    grain = np.random.default_rng(frame).normal(0, 0.006, (HEIGHT // 2, WIDTH // 2, 1)).astype(np.float32)
    out += cv2.resize(grain, (WIDTH, HEIGHT), interpolation=cv2.INTER_LINEAR)[..., None]
    return np.clip(out, 0, 1)
