"""Glare: light that the lens spreads around what is bright. It reaches beyond every edge: light where
alpha is 0.

A sum of Gaussians, each twice as wide as the one before and as strong, stands for the wide skirts of
a lens (common practice, no source).
"""

from __future__ import annotations

import cv2
import numpy as np

from ..model import Floats
from ..pixel_samples import PixelSamples
from .base import Pass, PassSettings, channels

#: Gaussians that are added.
_SKIRTS = 4


def _fill(pixels: PixelSamples, settings: PassSettings) -> dict[str, Floats]:
    """The light over the threshold, not spread yet."""
    over = np.maximum(pixels.beauty - np.float32(settings.glare.over), 0)
    return channels("glare", "RGB", over)


def _finish(planes: dict[str, Floats], settings: PassSettings) -> dict[str, Floats]:
    glare = settings.glare
    found = {}
    for name, plane in planes.items():
        total = np.zeros_like(plane)
        for i in range(_SKIRTS):
            sigma = glare.size * plane.shape[0] * 2.0 ** (i - _SKIRTS + 1)
            total += _blurred(plane, sigma)
        found[name] = total * np.float32(glare.strength / _SKIRTS)
    return found


def _blurred(plane: Floats, sigma: float) -> Floats:
    """A Gaussian; a wide one is as good on a smaller picture, and as bright."""
    shrink = 1 << max(0, int(np.log2(max(sigma, 1) / 4)))
    height, width = plane.shape
    size = -(-width // shrink), -(-height // shrink)
    # whole blocks, so that every pixel's light is counted once
    padded = np.zeros((size[1] * shrink, size[0] * shrink), np.float32)
    padded[:height, :width] = plane
    small = cv2.resize(padded, size, interpolation=cv2.INTER_AREA)
    soft = cv2.GaussianBlur(small, (0, 0), sigma / shrink, borderType=cv2.BORDER_CONSTANT)
    large = cv2.resize(soft, (padded.shape[1], padded.shape[0]), interpolation=cv2.INTER_LINEAR)
    return large[:height, :width].astype(np.float32, copy=False)


PASS = Pass(
    name="glare",
    help="Light that the lens spreads around what is bright.",
    kind="colour",
    filtered=True,
    sample="half",
    fill=_fill,
    finish=_finish,
    needs="glare",
    coded="light",
)
