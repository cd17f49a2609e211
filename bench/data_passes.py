"""Data passes: a picture on a UV pass at 4K, beside OpenCV's remap, and what filtering is worth."""

from __future__ import annotations

import cv2
import numpy as np
from measure import Row, best_of, ms, sized
from neatveil.arrays import uv_mapped
from neatveil.numeric.pool import for_strips
from neatveil.numeric.texture import LookUp, Map, looked_up, pyramid_of

HEIGHT, WIDTH = sized((2160, 3840), (108, 192))


def data_passes() -> list[Row]:
    return [*_uv_map(), _zone_plate()]


def _uv_map() -> list[Row]:
    rng = np.random.default_rng(1)
    art = rng.random((HEIGHT, WIDTH, 4), np.float32)
    art[..., 3] = 1
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    u = (x + 0.5) / np.float32(WIDTH) * np.float32(0.9) + np.float32(0.004) * np.sin(y / 50)
    v = (y + 0.5) / np.float32(HEIGHT) * np.float32(0.9) + np.float32(0.004) * np.cos(x / 70)
    share = np.ones((HEIGHT, WIDTH), np.float32)
    share[:40], share[-40:] = 0, 0
    there = Map.of(u, v, share)
    places = u * WIDTH - np.float32(0.5), v * HEIGHT - np.float32(0.5)
    remapped = np.empty_like(art)
    planes = [np.ascontiguousarray(art[..., i]) for i in range(4)]

    def ours(filtered: bool, small: float) -> None:
        """``small``: how many pixels of the picture one of the result is long."""
        matrix = np.array([[small, 0, 0], [0, small, 0]], np.float32)
        looked_up(there, pyramid_of(planes, filtered), LookUp(matrix, filtered, "linear", "wrap"))

    def theirs() -> None:
        def strip(a: int, b: int) -> None:
            cv2.remap(
                art, places[0][a:b], places[1][a:b], cv2.INTER_LINEAR, dst=remapped[a:b],
                borderMode=cv2.BORDER_WRAP,
            )  # fmt: skip

        for_strips(HEIGHT, WIDTH * 4, strip)

    times = best_of(
        {
            "plain": lambda: ours(False, 1.0), "filtered": lambda: ours(True, 1.0),
            "small": lambda: ours(True, 3.0), "remap": theirs,
        },
        rounds=5,
    )  # fmt: skip
    reference = f"OpenCV's remap {ms(times['remap'])}"
    rows = []
    for name, what, most in (
        ("plain", "UV map, 4K, unfiltered", 1.2), ("filtered", "the same, filtered", 4),
        ("small", "the same, three times smaller", 4),
    ):  # fmt: skip
        ratio = times[name] / times["remap"]
        rows.append(Row(what, ms(times[name]), reference, ratio, f"<= {most}", ratio <= most))
    return rows


def _zone_plate() -> Row:
    """A floor of rings that runs away, against 16 x 16 samples a pixel."""
    size = 512
    y, x = (np.mgrid[:size, :size] + 0.5) / size - 0.5
    grey = 0.5 + 0.5 * np.cos(np.pi * size * 0.9 * (x * x + y * y))
    plate = np.stack([grey, grey, grey, np.ones_like(grey)], -1).astype(np.float32)

    def seen(scale: int) -> np.ndarray:  # type: ignore[type-arg]
        b, a = (np.mgrid[: 64 * scale, : 96 * scale] + 0.5) / scale
        depth = 1 + 2.5 * b / 64
        u, v = 0.5 + (a / 96 - 0.5) * 0.9 * depth / 3.5 * 1.8, 0.05 + 0.9 * b / 64
        return np.stack([u, v], -1).astype(np.float32)

    fine = uv_mapped(plate, seen(16), filtered=False, between="linear", beyond="clamp")
    truth = fine.reshape(64, 16, 96, 16, 4).mean((1, 3))

    def decibels(filtered: bool) -> float:
        got = uv_mapped(plate, seen(1), filtered=filtered, between="linear", beyond="clamp")
        return float(-10 * np.log10(((got - truth)[..., 0] ** 2).mean()))

    ours, plain = decibels(True), decibels(False)
    return Row(
        "zone plate in perspective", f"{ours:.1f} dB", f"unfiltered {plain:.1f} dB", ours - plain,
        ">= 12 dB more", ours - plain >= 12,
    )  # fmt: skip
