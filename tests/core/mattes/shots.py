"""Thirty-six shots before a card whose alpha is known: six colours, six ways of being shot.

Each has spill, as any thing near a card has; noise grows with the light as a sensor's does. Made up; what
makes keys hard is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import cv2
import numpy as np
from neatveil.colour.codes import coded, lit
from neatveil.evaluate.matting import part_matte
from neatveil.mattes import KeyPart, Rows
from neatveil.picture import Box, Plane

HEIGHT, WIDTH = 360, 640
CARD = np.array([0.06, 0.34, 0.09])
#: Where a person drags over clean card.
CLEAN = Box(20, 20, 120, 110)
COLOURS = {
    "grey": (0.30, 0.30, 0.30),
    "skin": (0.45, 0.27, 0.20),
    "white": (0.80, 0.80, 0.78),
    "dark": (0.04, 0.04, 0.05),
    "yellow": (0.55, 0.48, 0.08),
    "cyan": (0.10, 0.45, 0.50),
}
WAYS = ("hard", "hair", "motion blur", "uneven card", "noise", "hair, uneven, noise")


def eight_bit(codes: np.ndarray) -> np.ndarray:
    """Codes 0..1 as a file of eight bits holds them."""
    return (np.rint(np.clip(codes, 0, 1) * 255) / 255).astype(np.float32)


def light_of(codes: np.ndarray) -> dict[str, Plane]:
    """Opaque planes R, G, B, A of light from sRGB codes ``(H, W, 3)``."""
    planes = {
        n: lit(np.ascontiguousarray(codes[..., i], np.float32).reshape(-1)).reshape(codes.shape[:2])
        for i, n in enumerate("RGB")
    }
    return {**planes, "A": np.ones(codes.shape[:2], np.float32)}


def keyed(planes: dict[str, Plane], part: KeyPart, plate: dict[str, Plane] | None = None) -> Plane:
    """What a key keeps of a whole picture, an uneven card surveyed as the evaluator does."""
    card = part.survey({n: p[3::8, 3::8] for n, p in planes.items()}) if part.surveys else None
    return part_matte(part, Rows(planes, plate, 0, planes["R"].shape[0], card))


class Shot(NamedTuple):
    name: str
    planes: dict[str, np.ndarray]
    alpha: np.ndarray
    #: Where the thing is whole, a few pixels in; and where there is only card.
    core: np.ndarray
    clear: np.ndarray


def shots() -> Iterator[Shot]:
    for c, colour in enumerate(COLOURS):
        for w, way in enumerate(WAYS):
            yield _shot(colour, way, np.random.default_rng(100 * c + w))


def _outline(way: str, rng: np.random.Generator) -> np.ndarray:
    drawn = np.zeros((HEIGHT * 4, WIDTH * 4), np.uint8)
    cv2.ellipse(drawn, (WIDTH * 2 + 80, HEIGHT * 2 + 60), (440, 560), 0, 0, 360, 255, -1)
    if "hair" in way:
        for turn in rng.uniform(0, 2 * np.pi, 260):
            near = np.array([np.cos(turn) * 430, np.sin(turn) * 550])
            far = near * rng.uniform(1.05, 1.22) + rng.normal(0, 30, 2)
            middle = np.array([WIDTH * 2 + 80, HEIGHT * 2 + 60])
            ends = [tuple(int(v) for v in p + middle) for p in (near, far)]
            cv2.line(drawn, ends[0], ends[1], int(rng.uniform(140, 255)), int(rng.integers(2, 5)))
    alpha = cv2.resize(drawn, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
    return cv2.blur(alpha, (61, 1)) if way == "motion blur" else cv2.GaussianBlur(alpha, (0, 0), 0.6)


def _shot(colour: str, way: str, rng: np.random.Generator) -> Shot:
    alpha = _outline(way, rng)
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    card = np.broadcast_to(CARD, (HEIGHT, WIDTH, 3)).copy()
    if "uneven" in way:
        card *= (1 + 0.25 * (x / WIDTH - 0.5) - 0.35 * (y / HEIGHT - 0.5))[..., None]
    shade = 1 + 0.25 * cv2.GaussianBlur(rng.normal(0, 12, alpha.shape).astype(np.float32), (0, 0), 14)
    thing = np.array(COLOURS[colour]) * np.clip(shade, 0.5, 1.5)[..., None]
    # light from the card on the thing, most near its edges
    near = 0.04 + 0.06 * (1 - cv2.GaussianBlur(alpha, (0, 0), 18))
    thing = thing + near[..., None] * CARD
    light = alpha[..., None] * thing + (1 - alpha[..., None]) * card
    grain = 0.02 if "noise" in way else 0.005
    light = np.maximum(0, light + rng.normal(0, grain, light.shape) * np.sqrt(np.maximum(light, 0.01)))
    codes = coded(np.ascontiguousarray(light, np.float32).reshape(-1)).reshape(light.shape)
    planes = light_of(eight_bit(codes))
    inner = cv2.erode((alpha > 0.999).astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
    outer = cv2.erode((alpha < 0.001).astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
    return Shot(f"{colour}, {way}", planes, alpha, inner, outer)
