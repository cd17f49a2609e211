"""The pictures that random documents are made of, and a decoder that holds them."""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
from neatveil.channels.identity import hash_as_float, name_hash
from neatveil.picture import Box, StoredPicture

WIDTH, HEIGHT = 44, 34
DEPTH = "depth.Z"


class Arrays:
    """A decoder of arrays in memory, by file name: a list of ``(H, W, 4)`` frames, from ``first`` on.

    ``extra``: further planes of files with one frame.
    """

    def __init__(self, stored, extra=None, first=1):
        self.stored, self.extra, self.first = stored, extra or {}, first

    def read(self, source, frame, planes=None):
        rows, extra = self.stored[source], self.extra.get(source, {})
        rgba = np.asarray(rows[0] if len(rows) == 1 else rows[frame - self.first], np.float32)
        known = {n: rgba[..., i] for i, n in enumerate("RGBA")} | extra
        picture = {n: np.ascontiguousarray(known[n]) for n in planes or "RGBA" if n in known}
        data = set(picture) & set(extra)
        return StoredPicture(picture, Box.sized(rgba.shape[1], rgba.shape[0]), data_planes=data)

    def probe(self, source):
        """As much of a file's facts as is asked for: the names of its channels."""
        names = [*"RGBA", *self.extra.get(source, {})]
        return SimpleNamespace(channels=[SimpleNamespace(name=n) for n in names])

    def read_halved(self, source, frame):
        return None

    def draw(self, source, frame, level):
        drawn = DRAWN[source](2**-level).astype(np.float32)
        planes = {n: np.ascontiguousarray(drawn[..., i]) for i, n in enumerate("RGBA")}
        return StoredPicture(planes, Box.sized(drawn.shape[1], drawn.shape[0]))


def soft_noise(rng, height, width, size):
    """Smooth noise within 0..1."""
    small = rng.random((height // size + 3, width // size + 3))
    y, x = np.mgrid[:height, :width] / size
    iy, ix = y.astype(int), x.astype(int)
    fy, fx = y - iy, x - ix
    top = small[iy, ix] * (1 - fx) + small[iy, ix + 1] * fx
    return top * (1 - fy) + (small[iy + 1, ix] * (1 - fx) + small[iy + 1, ix + 1] * fx) * fy


def disc(rng, height, width, *, light=False, margin=0.32):
    """Straight: a soft disc of smooth colour with an empty border; with light beyond its edge if asked."""
    y, x = np.mgrid[:height, :width]
    away = np.hypot(x - width / 2 + 0.5, y - height / 2 + 0.5)
    alpha = np.clip((min(height, width) * margin - away) / 3, 0, 1)
    out = np.stack([*(0.1 + 0.8 * soft_noise(rng, height, width, 7) for _ in range(3)), alpha], -1)
    if light:  # premultiplied, in light: a glow that goes past the edge, and an alpha that overshoots
        out[..., :3] *= alpha[..., None]
        out[..., :3] += (0.3 * np.exp(-((away / height * 4) ** 2)) * (away < height * 0.42))[..., None]
        out[..., 3] *= 1.04
    return out


def mark(share=1):
    """Straight: two stripes of one colour each in a lens, drawn ``share`` times as large as 24 x 20."""
    y, x = (np.mgrid[: 20 * share, : 24 * share] + 0.5) / share
    away = np.hypot((x - 12) / 11, (y - 10) / 8.5)
    alpha = np.clip((1 - away) * 9 * share + 0.5, 0, 1)
    left = np.clip((x - 10) * share + 0.5, 0, 1)
    return np.stack([0.9 - 0.7 * left, 0.3 + 0.4 * left, 0.2 + 0 * left, alpha], -1)


#: Files that are drawn at the size that they are seen at.
DRAWN = {"mark.svg": mark}


def pictures():
    rng = np.random.default_rng(11)
    plate = np.stack([*(soft_noise(rng, HEIGHT, WIDTH, 5) for _ in range(3)), np.ones((HEIGHT, WIDTH))], -1)
    card = np.stack([np.full((HEIGHT, WIDTH), v) for v in (0.12, 0.55, 0.16, 1.0)], -1)
    puppet = disc(rng, HEIGHT, WIDTH)
    card[..., :3] = (
        card[..., :3] * (1 - puppet[..., 3:]) + puppet[..., :3] * (0.9, 0.6, 0.7) * puppet[..., 3:]
    )
    white = disc(rng, 25, 31)
    white[..., :3] = white[..., :3] * white[..., 3:] + 1 - white[..., 3:]
    upside = disc(rng, HEIGHT, WIDTH)
    upside[..., 3] = 1 - upside[..., 3]
    return {
        "plate": [plate],
        "card": [card],
        "disc": [disc(rng, 30, 36)],
        "glow": [disc(rng, HEIGHT, WIDTH, light=True, margin=0.2)],
        "odd": [white],
        "upside": [upside],
        "mark.svg": [mark()],
        "moving": [disc(rng, 22, 26, margin=0.15 + 0.05 * i) for i in range(4)],
    }


def extra_planes():
    """Of "glow": a depth, and two objects by their names that cover the picture from left to right."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    share = np.clip((x - 20) / 5, 0, 1)
    ids = [np.full((HEIGHT, WIDTH), hash_as_float(name_hash(n)), np.float32) for n in ("reed", "kite")]
    return {
        "glow": {
            DEPTH: 0.2 + 0.02 * x + 0.01 * y,
            "uv.U": 0.06 * x - 0.7 + 0.011 * y, "uv.V": 0.04 * y + np.float32(0.3) * (x > 22),
            # the same everywhere: they blur by shifted copies, and by one disc
            "motion.X": np.full((HEIGHT, WIDTH), 2, np.float32),
            "motion.Y": np.full((HEIGHT, WIDTH), -1, np.float32),
            "far.Z": np.full((HEIGHT, WIDTH), 4, np.float32),
            "objects00.R": ids[0], "objects00.G": 1 - share,
            "objects00.B": ids[1], "objects00.A": share,
        },
    }  # fmt: skip


ELEMENTS = {
    "plate": {"encoding": "rec709", "reading": {"alpha": "none"}},
    "card": {"encoding": "linear", "reading": {"alpha": "none"}},
    "disc": {"encoding": "srgb", "reading": {"alpha": "straight"}},
    "glow": {"encoding": "linear", "reading": {"alpha": "premultiplied"}},
    "odd": {
        "encoding": "srgb",
        "reading": {"alpha": "premultiplied", "matte": [1, 1, 1], "multiplied": "encoded"},
    },
    "upside": {"encoding": "srgb", "reading": {"alpha": "straight", "inverted": True}},
    "mark": {"encoding": "srgb", "reading": {"alpha": "straight"}, "file": "mark.svg"},
    "moving": {"encoding": "srgb", "reading": {"alpha": "straight"}, "still": False, "first": 1, "last": 4},
}
