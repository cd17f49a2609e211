"""Small pictures made for tests, and Hypothesis strategies for them."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path

import hypothesis.extra.numpy as hnp
import numpy as np
from hypothesis import strategies as st
from neatveil.channels.identity import hash_as_float, name_hash
from neatveil.io.backends import oiio_writing
from neatveil.io.backends.av_writing import MovieWriter
from neatveil.picture import Box, PremultipliedPicture, StoredPicture
from PIL import Image

values = st.floats(0, 1, width=32).map(lambda v: 0.0 if v < 1e-6 else v)


def rgba_arrays(low: int = 1, high: int = 6):
    """Straight ``(H, W, 4)`` float32 arrays within 0..1."""
    shape = st.tuples(st.integers(low, high), st.integers(low, high), st.just(4))
    return shape.flatmap(lambda s: hnp.arrays(np.float32, s, elements=values))


def soft_disc(height: int = 48, width: int = 64, colour=(0.8, 0.4, 0.1)) -> np.ndarray:
    """Straight RGBA code values: a disc with a soft edge."""
    y, x = np.mgrid[:height, :width]
    distance = np.hypot(x - width / 2 + 0.5, y - height / 2 + 0.5)
    out = np.empty((height, width, 4), np.float32)
    out[..., :3] = colour
    out[..., 3] = np.clip((min(height, width) / 3 - distance) / 4, 0, 1)
    return out


def premultiplied(rgba: np.ndarray) -> np.ndarray:
    out = rgba.copy()
    out[..., :3] *= rgba[..., 3:]
    return out


def picture(rgba: np.ndarray) -> PremultipliedPicture:
    return PremultipliedPicture.from_rgba(rgba.astype(np.float32))


def stored(rgba: np.ndarray) -> StoredPicture:
    return StoredPicture.from_rgba(rgba.astype(np.float32))


def save_png(path: Path, rgba: np.ndarray) -> Path:
    """8-bit PNG through Pillow, which does not touch the alpha."""
    path.parent.mkdir(parents=True, exist_ok=True)
    Image.fromarray(np.rint(np.clip(rgba, 0, 1) * 255).astype(np.uint8)).save(path)
    return path


def movie_without_rate(path: Path, frames: int = 1) -> Path:
    """A Matroska movie whose header gives no frame duration, and too few frames to tell it from."""
    writer = MovieWriter(
        path, 32, 16, Fraction(25), codec="ffv1", pixel_format="gbrap16le", options={},
        encoding="srgb", container="matroska",
    )  # fmt: skip
    for _ in range(frames):
        writer.write(StoredPicture.from_rgba(soft_disc(16, 32)))
    writer.close()
    data = path.read_bytes()
    # DefaultDuration (RFC 9559, 5.1.4.1.13) becomes a Void element of the same length
    at = data.index(bytes.fromhex("23e383"))
    length = 4 + (data[at + 3] & 0x7F)
    void = b"\xec" + bytes([0x80 | (length - 2)]) + b"\0" * (length - 2)
    path.write_bytes(data[:at] + void + data[at + length :])
    return path


def save_ranks(path: Path) -> Path:
    """Half grey, 64 x 48: a "post" covers a quarter of each pixel, a "board" half, in ID ranks.

    Laid out as in the published specification: names as 32-bit MurmurHash3, taken for floats; a
    pair of channels for each rank, identity and share, the largest share first.
    """
    post, board = (np.full((48, 64), hash_as_float(name_hash(n)), np.float32) for n in ("post", "board"))
    half, quarter = (np.full((48, 64), v, np.float32) for v in (0.5, 0.25))
    planes = dict.fromkeys("RGB", half) | {"A": np.ones((48, 64), np.float32)}
    planes |= {"objects00.R": board, "objects00.G": half, "objects00.B": post, "objects00.A": quarter}
    box = Box.sized(64, 48)
    oiio_writing.write(
        path, StoredPicture(planes, box, box), sample="float", alpha_straight=False,
        encoding="linear", compression="zip",
        attributes={"cryptomatte/1234567/name": "objects", "cryptomatte/1234567/manifest":
                    json.dumps({n: f"{name_hash(n):08x}" for n in ("post", "board")})},
    )  # fmt: skip
    return path
