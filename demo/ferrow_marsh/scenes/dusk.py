"""The sky over the marsh at dusk, all around: for the scenes' light and mirrors."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture


def dusk_sky(path: Path, width: int = 512, height: int = 256) -> Path:
    """Write it as OpenEXR, by latitude and longitude; the glow of the sun is at the left of +z."""
    row, column = np.mgrid[0:height, 0:width]
    latitude = np.pi * (0.5 - (row + 0.5) / height)
    longitude = 2 * np.pi * (0.5 - (column + 0.5) / width)
    up = np.sin(latitude)
    high = np.clip(up, 0, 1)[..., None] ** 0.6
    sky = np.array([0.95, 0.50, 0.30]) * (1 - high) * 0.55 + np.array([0.10, 0.16, 0.34]) * high
    # the sun has gone down behind the reeds: a wide glow over the horizon
    off = np.angle(np.exp(1j * (longitude - np.radians(70))))
    glow = np.exp(-((off / 0.5) ** 2) - ((latitude - 0.06) / 0.16) ** 2)[..., None]
    sky = sky + glow * np.array([6.0, 2.6, 0.9])
    for phase, (turns, lift) in enumerate([(3, 0.28), (5, 0.42), (2, 0.6)]):
        band = np.exp(-(((latitude - lift - 0.04 * np.sin(turns * longitude + phase)) / 0.03) ** 2))
        sky = sky + (band * (0.5 + 0.5 * np.sin((turns + 2) * longitude + 2 * phase)))[..., None] * [
            0.25,
            0.14,
            0.12,
        ]
    marsh = np.array([0.035, 0.04, 0.035]) * (1 + 0.5 * np.cos(longitude - np.radians(70)))[..., None]
    light = np.where((up > 0)[..., None], sky, marsh).astype(np.float32)
    planes = {n: np.ascontiguousarray(light[..., i]) for i, n in enumerate("RGB")}
    oiio_writing.write(
        path, StoredPicture(planes), sample="half", alpha_straight=False, encoding="linear", compression="zip"
    )
    return path
