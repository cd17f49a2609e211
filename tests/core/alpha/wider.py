"""More elements whose reading is known because it was made so, of the kinds that go wrong most easily.

Veils whose alpha never falls below one half, glows without an edge of their own, a picture or a gradient
mixed into the RGB, an alpha that is inverted, a soft ball over a photograph; each with noise, or damaged as a
JPEG of 8 bits is.
"""

from __future__ import annotations

import io
import zlib
from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from core.alpha.matrix import COLOURS, HEIGHT, WIDTH, _blob, _foreground, decode, encode
from neatveil.alpha import Reading
from PIL import Image
from skimage.data import astronaut, rocket

KINDS = ("veil", "light", "picture", "gradient", "inverted", "ball")
TRUTHS = ("straight", "linear", "encoded")
DAMAGES = ("none", "noise", "jpeg")
#: What no one matte colour can take out of the RGB.
MIXED = {"picture", "gradient"}


@dataclass(frozen=True, slots=True)
class Wider:
    """``truth`` is straight, or when the multiplication happened; of `MIXED` kinds straight is right."""

    kind: str
    truth: str
    colour: str
    damage: str
    number: int

    @property
    def seed(self) -> int:
        return zlib.crc32(repr((self.kind, self.truth, self.colour, self.damage, self.number)).encode())

    @property
    def reading(self) -> Reading:
        """The reading that made it."""
        inverted = self.kind == "inverted"
        if self.truth == "straight" or self.kind in MIXED:
            return Reading(alpha="straight", inverted=inverted)
        r, g, b = (float(v) for v in COLOURS[self.colour])
        return Reading(alpha="premultiplied", matte=(r, g, b), multiplied=self.truth, inverted=inverted)

    def __str__(self) -> str:
        return f"{self.kind}, {self.truth}, {self.colour}, {self.damage}, {self.number}"


def wider_cases(numbers: int = 2) -> Iterator[Wider]:
    for kind in KINDS:
        for truth in TRUTHS:
            if kind in MIXED and truth == "straight":
                continue
            for colour in ("black", "white", "navy", "green"):
                if kind in MIXED and colour != "black":
                    continue
                for damage in DAMAGES:
                    for number in range(numbers * (4 if kind in MIXED else 1)):
                        yield Wider(kind, truth, colour, damage, number)


def _behind(kind: str, rng: np.random.Generator) -> np.ndarray:
    """Code values that are mixed into the RGB instead of one colour."""
    if kind == "gradient":
        ends = rng.random((2, 3))
        y, x = np.mgrid[:HEIGHT, :WIDTH]
        turn = rng.random() * np.pi
        t = (np.cos(turn) * x / WIDTH + np.sin(turn) * y / HEIGHT)[..., None]
        t = (t - t.min()) / np.ptp(t)
        return ends[0] + t * (ends[1] - ends[0])
    photo = (astronaut, rocket)[rng.integers(2)]()
    y, x = rng.integers(photo.shape[0] - HEIGHT), rng.integers(photo.shape[1] - WIDTH)
    return photo[y : y + HEIGHT, x : x + WIDTH].astype(float) / 255


def _alpha(kind: str, rng: np.random.Generator) -> np.ndarray:
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    if kind == "veil":
        waves = cv2.GaussianBlur(rng.normal(size=(HEIGHT, WIDTH)), (0, 0), 14)
        waves = (waves - waves.min()) / np.ptp(waves)
        return 0.5 + 0.5 * waves
    if kind == "light":
        away = np.hypot(x - WIDTH * rng.uniform(0.3, 0.7), y - HEIGHT * rng.uniform(0.3, 0.7))
        return np.exp(-((away / rng.uniform(25, 60)) ** 2))
    if kind == "ball":
        away = np.hypot(x - WIDTH / 2, y - HEIGHT / 2)
        soft = rng.uniform(8, 40)
        return np.clip((HEIGHT * 0.4 - away) / soft, 0, 1)
    return _blob(rng, float(rng.uniform(2, 7)))


def stored(case: Wider) -> np.ndarray:
    """Code values ``(H, W, 4)`` float32 of an sRGB file of 8 bits."""
    rng = np.random.default_rng(case.seed)
    colour, alpha = _foreground(rng), _alpha(case.kind, rng)
    a = alpha[..., None]
    behind = _behind(case.kind, rng) if case.kind in MIXED else np.array(COLOURS[case.colour], float)
    if case.truth == "straight":
        # an inverted one whose colour goes on everywhere cannot be told from one that is not
        filled = case.kind == "inverted" or rng.random() < 0.5
        held = np.where(a > 0.5 / 255, colour, behind) if filled else colour
    elif case.truth == "encoded":
        held = colour * a + behind * (1 - a)
    else:
        held = encode(decode(colour) * a + decode(behind) * (1 - a))
    if case.damage == "noise":
        held = held + rng.normal(0, 2.5 / 255, held.shape)
    codes = np.rint(np.clip(held, 0, 1) * 255).astype(np.uint8)
    if case.damage == "jpeg":
        file = io.BytesIO()
        Image.fromarray(codes).save(file, "jpeg", quality=85)
        codes = np.asarray(Image.open(file))
    if case.kind == "inverted":
        alpha = 1 - alpha
    return np.dstack([codes / 255, np.rint(alpha * 255) / 255]).astype(np.float32)


def is_right(case: Wider, got: Reading | None) -> bool:
    """As it was made; where straight gives the same picture within two codes, that too."""
    if got is None:
        return False
    want = case.reading
    if got.inverted != want.inverted:
        return False
    if want.alpha == "straight" or got.alpha == "straight":
        return got.alpha == want.alpha
    near = max(abs(a - b) for a, b in zip(got.matte, want.matte, strict=True)) < 0.03
    return near and got.multiplied == want.multiplied
