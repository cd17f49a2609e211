"""What comes in with trouble: a title multiplied over paper white, feathers apart from their alpha.

Also a small library, as it lies on a disk: heron stills and a few numbered reeds.
"""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from .brushes import HEIGHT, WIDTH, disc
from .caption import caption

#: The title was multiplied over this, in code value, and nothing in the file says so.
PAPER = np.array([0.96, 0.94, 0.88], np.float32)
FILES = {
    "title": "reserve_title.####.png", "feather": "feather_rgb.####.png",
    "feather alpha": "feather_alpha.####.png",
}  # fmt: skip
FRAMES = range(1, 13)


def _save(path: Path, rgba: NDArray[np.float32]) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    codes = np.rint(np.clip(rgba, 0, 1) * 255).astype(np.uint8)
    turned = cv2.cvtColor(codes, cv2.COLOR_RGBA2BGRA if rgba.shape[2] == 4 else cv2.COLOR_RGB2BGR)
    cv2.imwrite(str(path), turned, [cv2.IMWRITE_PNG_COMPRESSION, 2])


def title(frame: int) -> NDArray[np.float32]:
    """The caption with a soft shadow, multiplied over paper after encoding: a classic mistake."""
    straight = np.asarray(caption(frame + 6)).astype(np.float32) / 255
    shadow = cv2.GaussianBlur(np.roll(straight[..., 3], (14, 14), (0, 1)), (0, 0), 9) * np.float32(0.55)
    alpha = straight[..., 3] + shadow * (1 - straight[..., 3])
    share = np.divide(straight[..., 3], alpha, out=np.zeros_like(alpha), where=alpha > 0)[..., None]
    colour = straight[..., :3] * share + np.float32(0.03) * (1 - share)
    held = colour * alpha[..., None] + PAPER * (1 - alpha[..., None])
    return np.dstack([held, alpha]).astype(np.float32)


def feather(frame: int) -> NDArray[np.float32]:
    """A heron's feather, drifting: straight RGBA with barbs a pixel wide."""
    rng = np.random.default_rng(5)
    big = np.zeros((HEIGHT, WIDTH), np.float32)
    x0, y0 = 520 + frame * 26, 330 + frame * 9
    for i in range(260):
        along = i / 260
        root = (x0 + along * 620, y0 + 210 * np.sin(along * 2.2) + along * 60)
        reach = 150 * np.sin(np.pi * min(1, along * 1.15)) ** 0.7
        for side in (-1, 1):
            lean = rng.normal(0.55, 0.05)
            tip = (root[0] + reach * lean, root[1] + side * reach * (0.8 + rng.normal(0, 0.05)))
            ends = [tuple(int(v * 16) for v in p) for p in (root, tip)]
            cv2.line(big, ends[0], ends[1], float(rng.uniform(0.35, 1)), 1, cv2.LINE_AA, 4)
    shaft = np.array(
        [[x0 + t * 640 - 20, y0 + 210 * np.sin(t * 2.2) + t * 60] for t in np.linspace(0, 1, 40)]
    )
    cv2.polylines(big, [np.round(shaft * 16).astype(np.int32)], False, 1.0, 5, cv2.LINE_AA, 4)
    alpha = np.clip(cv2.GaussianBlur(big, (0, 0), 0.6), 0, 1)
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    tone = 0.62 + 0.2 * np.sin(x / 47) + 0.1 * np.cos(y / 31)
    colour = np.stack([tone * 0.82, tone * 0.88, tone * 0.95], -1)
    return np.dstack([colour, alpha]).astype(np.float32)


def library(folder: Path) -> Path:
    """Stills and frames of a moon over reeds, as they would lie on a disk of the reserve."""
    for frame in range(1, 7):
        glow = disc((270, 480), 120 + frame * 8, 90, 34, 3.0)
        sky = np.linspace(0.1, 0.35, 270, dtype=np.float32)[:, None, None] * np.array(
            [0.7, 0.8, 1.0], np.float32
        )
        picture = np.broadcast_to(sky, (270, 480, 3)) * (1 - glow[..., None]) + glow[..., None] * 0.93
        _save(folder / "moon" / f"moonrise.{frame:04d}.png", picture.astype(np.float32))
    _save(
        folder / "stills" / "heron_feather.png",
        cv2.resize(feather(1), (960, 540), interpolation=cv2.INTER_AREA),
    )
    return folder


def frame_files(folder: Path, frame: int) -> None:
    """One frame of everything that comes in with trouble."""
    cv2.setNumThreads(1)
    _save(folder / f"reserve_title.{frame:04d}.png", title(frame))
    rgba = feather(frame)
    _save(folder / f"feather_rgb.{frame:04d}.png", rgba[..., :3])
    _save(folder / f"feather_alpha.{frame:04d}.png", np.repeat(rgba[..., 3:], 3, axis=2))
