"""What mattes are made of: a puppet before a card, reeds before a sky, water to fill letters with."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np

from . import puppet, reeds
from .brushes import Array

FRAMES = puppet.FRAMES
FILES = {
    "puppet": "puppet_green.####.png", "empty card": "puppet_empty.png", "reeds": "reeds_morning.####.png",
    "dawn sky": "dawn_sky.png", "ripples": "ripples.####.png",
}  # fmt: skip


def _save(path: Path, codes: Array) -> None:
    whole = np.rint(np.clip(codes, 0, 1) * 255).astype(np.uint8)
    cv2.imwrite(str(path), cv2.cvtColor(whole, cv2.COLOR_RGB2BGR), [cv2.IMWRITE_PNG_COMPRESSION, 1])


def frame_files(folder: Path, frame: int) -> None:
    """One frame of every sequence; with the first the stills."""
    cv2.setNumThreads(1)
    for name, codes in (("puppet", puppet.shot), ("reeds", reeds.shot), ("ripples", reeds.ripples)):
        _save(folder / FILES[name].replace("####", f"{frame:04d}"), codes(frame))
    if frame == FRAMES[0]:
        _save(folder / FILES["empty card"], puppet.empty_shot())
        _save(folder / FILES["dawn sky"], reeds.dawn_sky())
