"""Reeds against a dull sky, with their true coverage; a livelier sky; ripples to fill letters with."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np

from .brushes import HEIGHT, WIDTH, Array, lay_rgba, line
from .puppet import FRAMES, srgb

SHAPE = (HEIGHT, WIDTH)


@cache
def _dull_sky() -> Array:
    """Light: pale blue, brighter toward the horizon."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    t = (y / HEIGHT)[..., None]
    sky = (1 - t) * np.array([0.24, 0.33, 0.50], np.float32) + t * np.array([0.50, 0.54, 0.58], np.float32)
    cloud = 0.03 * np.sin(x / 260 + y / 170) + 0.02 * np.sin(x / 91 - y / 60)
    return (sky * (1 + cloud[..., None])).astype(np.float32)


def true_reeds(frame: int) -> Array:
    """``(1080, 1920, 4)`` light, premultiplied, of the reeds alone, some a pixel wide."""
    out = np.zeros((*SHAPE, 4), np.float32)
    rng = np.random.default_rng(21)
    swing = np.sin(frame / len(FRAMES) * 2 * np.pi)
    s = np.linspace(0, 1, 20)
    for i in range(64):
        x, size = rng.uniform(-60, WIDTH + 60), rng.uniform(0.45, 1.0)
        lean = rng.normal(0, 70) + swing * 10 * size
        stalk = np.column_stack([x + lean * s**2, HEIGHT + 10 - 900 * size * s])
        tone = rng.uniform(0.6, 1.5)
        green = np.array([0.060, 0.062, 0.022]) * tone
        lay_rgba(out, line(SHAPE, stalk, 2.5 + 4 * size, 4), tuple(green))
        for k in range(4):
            at = rng.integers(6, 16)
            way = 1 if (i + k) % 2 else -1
            u = np.linspace(0, 1, 12)
            leaf = stalk[at] + np.column_stack([way * 150 * size * u, -170 * size * u + 110 * size * u**2])
            lay_rgba(
                out, line(SHAPE, leaf, rng.uniform(1.2, 4) * size, 4), tuple(green * rng.uniform(0.9, 1.4))
            )
        for _ in range(26):
            root = stalk[-1] + np.array([0, rng.uniform(0, 130 * size)])
            tip = root + np.array([rng.normal(0, 26), -rng.uniform(20, 60)]) * size
            lay_rgba(out, line(SHAPE, np.array([root, tip]), rng.uniform(0.8, 1.8), 4),
                     (0.105 * tone, 0.072 * tone, 0.04 * tone), float(rng.uniform(0.5, 1)))  # fmt: skip
    return out


def shot(frame: int) -> Array:
    """``(1080, 1920, 3)`` sRGB codes 0..1."""
    front = true_reeds(frame)
    light = front[..., :3] + (1 - front[..., 3:]) * _dull_sky()
    rng = np.random.default_rng(300 + frame)
    return srgb(light + rng.normal(0, 1, light.shape).astype(np.float32) * (0.001 + 0.004 * np.sqrt(light)))


@cache
def dawn_sky() -> Array:
    """Codes of another sky: rose at the horizon, with streaks of cloud."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    t = (y / HEIGHT)[..., None]
    light = (1 - t) * np.array([0.10, 0.13, 0.30], np.float32) + t * np.array([0.95, 0.45, 0.24], np.float32)
    streak = np.sin(y / 34 + 2.2 * np.sin(x / 420)) * np.sin(x / 300 + y / 90)
    cloud = np.clip(streak, 0, 1)[..., None] * np.array([0.32, 0.16, 0.14], np.float32)
    return srgb(light + cloud * (0.3 + 0.7 * t))


def ripples(frame: int) -> Array:
    """Codes of moving water, to be seen through letters; it repeats as all of these do."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    turn = frame / len(FRAMES) * 2 * np.pi
    wave = np.sin(y / 17 + 2.6 * np.sin(x / 140 + turn)) + np.sin((x + y) / 61 - turn)
    glint = cv2.GaussianBlur((wave > 1.25).astype(np.float32), (0, 0), 1.2)
    base = 0.5 + 0.22 * wave
    water = base[..., None] * np.array([0.10, 0.34, 0.42], np.float32)
    return srgb(water + glint[..., None] * np.array([0.85, 0.72, 0.45], np.float32))
