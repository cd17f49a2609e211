"""The glass lantern: a rendered pass, premultiplied scene-linear light, its glow at alpha 0."""

from __future__ import annotations

import numpy as np
from neatveil.picture import Box, StoredPicture

from .brushes import HEIGHT, WIDTH, Array, disc, lay_rgba, line, polygon, whole

SIZE = 880
CORNER = (960, 170)
CENTRE = (440.0, 470.0)
IRON = (0.02, 0.022, 0.025)


def _glass(shape: tuple[int, int], swing: float, flame: float) -> Array:
    """The lantern's body without glow, premultiplied."""
    out = np.zeros((*shape, 4), np.float32)
    x, y = CENTRE[0] + swing, CENTRE[1]
    yy, xx = np.mgrid[: shape[0], : shape[1]].astype(np.float32)
    body = disc(shape, x, y, 190)
    rim = np.clip(np.hypot(xx - x, yy - y) / 190, 0, 1) ** 3
    light = np.exp(-((xx - x) ** 2 + (yy - y - 40) ** 2) / 16000) * flame
    glass = np.stack([0.10 + 1.3 * light, 0.16 + 0.75 * light, 0.14 + 0.25 * light], -1)
    lay_rgba(out, whole(body * (0.30 + 0.55 * rim)), glass)
    for points, width in (
        ([[x - 190, y], [x + 190, y]], 10),
        ([[x, y - 190], [x, y + 190]], 10),
        ([[x - 60, y - 186], [x + 60, y - 186]], 26),
        ([[x - 90, y + 180], [x + 90, y + 180]], 30),
    ):
        lay_rgba(out, line(shape, np.array(points), width), IRON)
    arc = np.linspace(np.pi, 2 * np.pi, 40)
    handle = np.column_stack([x + 95 * np.cos(arc), y - 196 + 120 * np.sin(arc)])
    lay_rgba(out, line(shape, handle, 13), IRON)
    lay_rgba(out, line(shape, np.array([[CENTRE[0], 0.0], [x, y - 312]]), 5), IRON)
    tip = 70 * flame
    wick = np.array([[x - 20, y + 90], [x, y + 90 - tip * 1.6], [x + 20, y + 90], [x, y + 112]])
    lay_rgba(out, polygon(shape, wick), (6.0 * flame, 3.2 * flame, 0.9))
    shine = disc(shape, x - 72, y - 78, 34, 40) * 0.5
    lay_rgba(out, whole(shine), (0.9, 0.95, 1.0))
    return out


def lantern(frame: int) -> StoredPicture:
    """R, G, B, A, the emission by itself and depth.Z (scene units); a data window inside 1920 x 1080."""
    phase = frame / 48 * 2 * np.pi
    flame = 1 + 0.08 * np.sin(3 * phase) + 0.05 * np.sin(7 * phase + 1)
    shape = (SIZE, SIZE)
    swing = 14 * np.sin(phase)
    beauty = _glass(shape, swing, flame)
    yy, xx = np.mgrid[:SIZE, :SIZE].astype(np.float32)
    far = np.hypot(xx - CENTRE[0] - swing, yy - CENTRE[1] - 60)
    fall = np.clip(1 - far / 400, 0, 1) ** 2 * np.exp(-far / 150) * 0.9 * flame
    glow = fall[..., None] * np.array([1.0, 0.52, 0.16], np.float32)
    beauty[..., :3] += glow
    planes = {n: np.ascontiguousarray(beauty[..., i]) for i, n in enumerate("RGBA")}
    planes |= {f"emission.{n}": np.ascontiguousarray(glow[..., i]) for i, n in enumerate("RGB")}
    planes = {n: p.astype(np.float32, copy=False) for n, p in planes.items()}
    planes["depth.Z"] = np.where(beauty[..., 3] > 0, 6.5, 1000).astype(np.float32)
    window = Box(0, 0, SIZE, SIZE).shift(*CORNER)
    return StoredPicture(planes, window, Box.sized(WIDTH, HEIGHT), data_planes=["depth.Z"])
