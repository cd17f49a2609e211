"""Elements whose reading is known because it was made so: the test matrix for suggesting readings.

Each case is a made-up element: a textured foreground under one of six kinds of alpha, stored
straight (with one of the colours, or the foreground's own drawn out, in the RGB that the alpha hides) or
premultiplied over one of twelve colours, before or after encoding, in one of six forms of storage.
"""

from __future__ import annotations

import io
import tempfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import OpenImageIO as oiio
from neatveil.io.backends.av_movies import MovieReader
from neatveil.io.backends.av_writing import MovieWriter
from neatveil.picture import StoredPicture
from PIL import Image
from skimage.data import chelsea, coffee

WIDTH, HEIGHT = 320, 200
COLOURS = {
    "black": (0, 0, 0), "white": (1, 1, 1), "grey": (0.5, 0.5, 0.5), "red": (1, 0, 0),
    "green": (0, 1, 0), "blue": (0, 0, 1), "cyan": (0, 1, 1), "magenta": (1, 0, 1),
    "yellow": (1, 1, 0), "navy": (0.06, 0.12, 0.32), "sand": (0.8, 0.62, 0.48), "soot": (0.1, 0.1, 0.1),
}  # fmt: skip
KINDS = ("soft", "hair", "motion", "glow", "hard", "opaque")
DECIDABLE = KINDS[:4]
STORAGES = ("8-bit", "8-bit lossy", "16-bit", "16-bit lossy", "half", "half lossy")
TRUTHS = ("straight", "linear", "encoded")


@dataclass(frozen=True, slots=True)
class Case:
    """``truth`` is straight, or when the multiplication happened; ``colour`` what it was over."""

    kind: str
    storage: str
    truth: str
    colour: str

    @property
    def encoding(self) -> str:
        return "linear" if self.storage.startswith("half") else "srgb"

    @property
    def seed(self) -> int:
        return zlib.crc32(repr((self.kind, self.storage, self.truth, self.colour)).encode())

    def __str__(self) -> str:
        return f"{self.kind}, {self.storage}, {self.truth}, {self.colour}"


def cases() -> Iterator[Case]:
    """Every case of the matrix. Half floats hold light: there, after encoding has no meaning."""
    for kind in KINDS:
        for storage in STORAGES:
            for truth in TRUTHS:
                if truth == "encoded" and storage.startswith("half"):
                    continue
                for colour in [*COLOURS, *(["drawn out"] if truth == "straight" else [])]:
                    yield Case(kind, storage, truth, colour)


def decode(code: np.ndarray) -> np.ndarray:
    """IEC 61966-2-1:1999."""
    return np.where(code <= 0.04045, code / 12.92, ((np.maximum(code, 0) + 0.055) / 1.055) ** 2.4)


def encode(light: np.ndarray) -> np.ndarray:
    light = np.maximum(light, 0)
    return np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)


def _foreground(rng: np.random.Generator) -> np.ndarray:
    """Code values: a piece of a photograph, or smooth colours with grain."""
    if rng.random() < 0.5:
        photo = (chelsea, coffee)[rng.integers(2)]()
        y, x = rng.integers(photo.shape[0] - HEIGHT), rng.integers(photo.shape[1] - WIDTH)
        return photo[y : y + HEIGHT, x : x + WIDTH].astype(np.float64) / 255
    small = rng.random((4, 5, 3))
    smooth = cv2.resize(small, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)
    return np.clip(smooth + rng.normal(0, 0.01, smooth.shape), 0, 1)


def _blob(rng: np.random.Generator, blur: float) -> np.ndarray:
    noise = cv2.GaussianBlur(rng.normal(size=(HEIGHT, WIDTH)), (0, 0), 18)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    middle = np.exp(-(((x - WIDTH / 2) / (WIDTH / 3)) ** 2 + ((y - HEIGHT / 2) / (HEIGHT / 3)) ** 2))
    shape = (middle + noise / noise.std() * 0.12 > 0.55).astype(np.float64)
    return cv2.GaussianBlur(shape, (0, 0), blur) if blur else shape


def _hair(rng: np.random.Generator) -> np.ndarray:
    scale = 8
    big = np.zeros((HEIGHT * scale, WIDTH * scale), np.uint8)
    for _ in range(45):
        ends = rng.random((3, 2)) * [WIDTH * scale, HEIGHT * scale]
        t = np.linspace(0, 1, 60)[:, None]
        curve = (1 - t) ** 2 * ends[0] + 2 * t * (1 - t) * ends[1] + t**2 * ends[2]
        cv2.polylines(big, [curve.astype(np.int32)], False, 255, int(rng.integers(5, 13)))
    return cv2.resize(big, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA) / 255.0


def _alpha_and_light(kind: str, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    none = np.zeros((HEIGHT, WIDTH))
    if kind == "opaque":
        return np.ones((HEIGHT, WIDTH)), none
    if kind == "hair":
        return _hair(rng), none
    if kind == "motion":
        return cv2.blur(_blob(rng, 0.6), (int(rng.integers(25, 60)), 1)), none
    if kind == "glow":
        core = _blob(rng, 0.7)
        return core, cv2.GaussianBlur(core, (0, 0), 16) * (1 - core)
    return _blob(rng, {"soft": float(rng.uniform(2, 7)), "hard": 0.0}[kind]), none


def element(case: Case) -> np.ndarray:
    """Stored code values ``(H, W, 4)`` float32, through the case's storage and back."""
    rng = np.random.default_rng(case.seed)
    colour, (alpha, light) = _foreground(rng), _alpha_and_light(case.kind, rng)
    matte = np.array(COLOURS.get(case.colour, (0, 0, 0)), np.float64)
    glow = light[..., None] * np.array([0.9, 0.55, 0.2]) * rng.uniform(0.4, 1.0)
    linear = case.encoding == "linear"
    if linear and rng.random() < 0.3:
        colour = colour * 1.5  # above white, as rendered light is
    if case.truth == "straight":
        # a straight file holds a glow as a colour under an alpha of its own
        share = 1 - (1 - alpha) * (1 - light)
        part = np.divide(alpha, share, out=np.ones_like(share), where=share > 0)[..., None]
        colour = colour * part + np.array([1.0, 0.75, 0.4]) * (1 - part)
        alpha = np.where(share < 0.5 / 255, 0, share)
        held = decode(colour) if linear else colour
        if case.colour != "drawn out":
            fill = decode(matte) if linear else matte
            held = np.where(alpha[..., None] > 0, held, fill)
    elif case.truth == "encoded":
        held = colour * alpha[..., None] + matte * (1 - alpha[..., None]) + glow
    else:
        held = decode(colour) * alpha[..., None] + decode(matte) * (1 - alpha[..., None]) + decode(glow)
        held = held if linear else encode(held)
    return _stored(np.dstack([held, alpha]), case.storage)


def _stored(rgba: np.ndarray, storage: str) -> np.ndarray:
    if storage.startswith("half"):
        half = rgba.astype(np.float16)
        return _dwa(half) if storage.endswith("lossy") else half.astype(np.float32)
    top = 255 if storage.startswith("8") else 65535
    codes = np.rint(np.clip(rgba, 0, 1) * top)
    if storage == "8-bit lossy":
        return _webp(codes.astype(np.uint8))
    if storage == "16-bit lossy":
        return _prores((codes / top).astype(np.float32))
    return (codes / top).astype(np.float32)


def _webp(codes: np.ndarray) -> np.ndarray:
    """4:2:0 and quantised; the alpha is kept whole."""
    file = io.BytesIO()
    Image.fromarray(codes).save(file, "webp", quality=90, method=2, exact=True)
    return np.asarray(Image.open(file).convert("RGBA")).astype(np.float32) / 255


def _prores(rgba: np.ndarray) -> np.ndarray:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "one.mov"
        writer = MovieWriter(
            path, WIDTH, HEIGHT, Fraction(25), codec="prores_ks", pixel_format="yuva444p10le",
            options={"profile": "4444", "alpha_bits": "16"}, encoding="rec709", container="mov",
        )  # fmt: skip
        writer.write(StoredPicture.from_rgba(rgba))
        writer.close()
        reader = MovieReader(path)
        got = reader.read(0).rgba().copy()
        reader.close()
    return got


def _dwa(half: np.ndarray) -> np.ndarray:
    with tempfile.TemporaryDirectory() as folder:
        path = str(Path(folder) / "one.exr")
        spec = oiio.ImageSpec(WIDTH, HEIGHT, 4, "half")
        spec.attribute("compression", "dwaa:45")
        out = oiio.ImageOutput.create(path)
        out.open(path, spec)
        out.write_image(half)
        out.close()
        source = oiio.ImageInput.open(path)
        got = np.asarray(source.read_image(0, 0, 0, 4, oiio.FLOAT)).reshape(HEIGHT, WIDTH, 4)
        source.close()
    return got
