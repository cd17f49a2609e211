"""The warden puppet before a green screen: unevenly lit, with loose wool for hair and an arm that waves.

Colours are light; its true alpha is known, since it is drawn before it is laid over the card.
"""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np
from numpy.typing import NDArray

from .brushes import HEIGHT, WIDTH, Array, Shape, disc, lay_rgba, line, polygon, whole

FRAMES = range(1, 7)
SHAPE = (HEIGHT, WIDTH)
CARD = np.array([0.055, 0.40, 0.10], np.float32)
#: Moments within a frame that a moving arm is seen at.
SHUTTER = 8


@cache
def card() -> Array:
    """``(1080, 1920, 3)`` light of the empty card: brighter on the left, dark corners, a crease."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    u, v = x / WIDTH * 2 - 1, y / HEIGHT * 2 - 1
    light = 1.05 - 0.22 * u - 0.10 * v - 0.16 * (u * u + v * v)
    light -= 0.05 * np.exp(-(((x - 1480 - 0.1 * y) / 14) ** 2))
    return (light[..., None] * CARD).astype(np.float32)


def _swell(points: NDArray[np.float64], by: float) -> NDArray[np.float64]:
    return points.mean(0) + (points - points.mean(0)) * by


def _arm(turn: float) -> Shape:
    """From the shoulder to the hand, raised by an angle."""
    shoulder = np.array([1110.0, 690])
    s = np.linspace(0, 1, 18)
    bend = np.column_stack([s * np.cos(turn + 0.5 * s), -s * np.sin(turn + 0.5 * s)]) * 330
    return line(SHAPE, shoulder + bend, 74, 2)


def true_puppet(frame: int) -> Array:
    """``(1080, 1920, 4)`` light, premultiplied, of the puppet alone; its alpha is known."""
    out = np.zeros((*SHAPE, 4), np.float32)
    sway = 6 * np.sin(frame / 6 * 2 * np.pi)
    # a wave is fast: some frames are all blur
    sweep = [0.75 + 0.55 * np.sin((frame + k / SHUTTER * 0.5) / 6 * 2 * np.pi) for k in range(SHUTTER)]
    blurred = np.zeros(SHAPE, np.float32)
    for turn in sweep:
        arm = _arm(float(turn))
        blurred[arm.where] += arm.values / SHUTTER
    lay_rgba(out, whole(blurred), (0.30, 0.135, 0.05))
    coat = np.array([[780.0, 1085], [830, 700], [905, 620], [1050, 615], [1130, 700], [1190, 1085]])
    lay_rgba(out, polygon(SHAPE, coat + np.array([sway * 0.3, 0])), (0.34, 0.15, 0.055))
    scarf = np.array([[868.0, 640], [980, 668], [1096, 636], [1090, 690], [980, 726], [872, 694]])
    lay_rgba(out, polygon(SHAPE, scarf + np.array([sway * 0.6, 0])), (0.55, 0.42, 0.30))
    _hair(out, sway)
    lay_rgba(out, whole(disc(SHAPE, 980 + sway, 500, 142, 2.0)), (0.52, 0.33, 0.22))
    for x in (928, 1036):
        lay_rgba(out, whole(disc(SHAPE, x + sway, 478, 15, 1.5)), (0.02, 0.02, 0.025))
    lay_rgba(out, whole(disc(SHAPE, 982 + sway, 528, 26, 2.0)), (0.50, 0.17, 0.12))
    brim = np.array([[820.0, 402], [1140, 402], [1100, 368], [1060, 300], [900, 300], [862, 368]])
    lay_rgba(out, polygon(SHAPE, brim + np.array([sway * 1.2, 0])), (0.06, 0.085, 0.16))
    return out


def _hair(out: Array, sway: float) -> None:
    """Loose wool round the head: strands a pixel or two wide, lit through."""
    rng = np.random.default_rng(11)
    for _ in range(420):
        start = rng.uniform(-0.35, np.pi + 0.35)
        s = np.linspace(0, 1, 10)
        reach = rng.uniform(150, 245) * (0.6 + 0.4 * s)
        turn = start + rng.normal(0, 0.35) * s**2 + 0.25 * np.sin(6 * s + rng.uniform(0, 6)) * s
        strand = np.column_stack(
            [980 + sway * (1 + s) + reach * np.cos(turn), 505 + reach * np.sin(turn) * 0.95]
        )
        tone = rng.uniform(0.7, 1.25)
        lay_rgba(out, line(SHAPE, strand, rng.uniform(1.0, 2.2), 4), (0.42 * tone, 0.26 * tone, 0.13 * tone),
                 float(rng.uniform(0.6, 1)))  # fmt: skip


def shot(frame: int) -> Array:
    """``(1080, 1920, 3)`` sRGB codes 0..1: over the card, with its light on the edges, and noise."""
    front = true_puppet(frame)
    alpha = front[..., 3:]
    empty = card()
    # the card lights what stands near its edge
    near = cv2.GaussianBlur(1 - front[..., 3], (0, 0), 22)[..., None]
    spill = near * alpha * np.float32(0.16) * CARD
    light = front[..., :3] + spill + (1 - alpha) * empty
    rng = np.random.default_rng(100 + frame)
    light = light + rng.normal(0, 1, light.shape).astype(np.float32) * (0.0015 + 0.004 * np.sqrt(light))
    return srgb(light)


def empty_shot() -> Array:
    """The clean plate, as codes."""
    rng = np.random.default_rng(99)
    light = card()
    return srgb(light + rng.normal(0, 1, light.shape).astype(np.float32) * (0.0015 + 0.004 * np.sqrt(light)))


def srgb(light: Array) -> Array:
    """Codes of light, IEC 61966-2-1."""
    held = np.clip(light, 0, 1)
    low, high = held * 12.92, 1.055 * np.maximum(held, 1e-9) ** (1 / 2.4) - 0.055
    return np.where(held <= 0.0031308, low, high).astype(np.float32)
