"""Every step at 4K, beside plain whole-frame NumPy, the copying of memory, or the library's call alone."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
from measure import Row, best_of, ms, sized
from neatveil.mattes.morphology import footprint
from neatveil.numeric.gaussian import gaussian
from neatveil.numeric.pool import for_strips
from neatveil.numeric.threads import workers
from neatveil.picture import RGBA, PremultipliedPicture, new_planes
from neatveil.steps import STEPS, Step
from neatveil.steps.apply import apply_steps

HEIGHT, WIDTH = sized((2160, 3840), (216, 384))
Array = Any


def _picture() -> PremultipliedPicture:
    rng = np.random.default_rng(1)
    planes = new_planes(RGBA, HEIGHT, WIDTH)
    for plane in planes.values():
        plane[:] = rng.random((HEIGHT, WIDTH), np.float32) * 0.9 + 0.05
    for n in "RGB":
        planes[n] *= planes["A"]
    return PremultipliedPicture(planes)


def _on_straight(rgba: Array, change: Callable[[Array], Array]) -> Array:
    """What somebody writes with NumPy: unpremultiply, change, premultiply, over the whole frame."""
    alpha = rgba[..., 3:]
    straight = np.divide(rgba[..., :3], alpha, out=rgba[..., :3].copy(), where=alpha > 0)
    changed = change(straight)
    done = np.where(alpha > 0, changed * alpha, changed)
    return np.concatenate([done, alpha], axis=-1)


def _luma(x: Array) -> Array:
    return x @ np.array([0.2126, 0.7152, 0.0722], np.float32)


def _levels(x: Array) -> Array:
    t = (x - np.float32(0.05)) / np.float32(0.9)
    return np.where(t > 0, np.abs(t) ** np.float32(1 / 1.5), t)


def _grade(x: Array) -> Array:
    y = (x * np.array([1.1, 1, 0.9], np.float32) - np.float32(0.18)) * np.float32(1.2) + np.float32(0.18)
    luma = _luma(y)[..., None]
    return luma + np.float32(0.8) * (y - luma)


#: A step, the same with NumPy, and whether it has neither power nor logarithm.
POINT: list[tuple[Step, Callable[[Array], Array], bool]] = [
    (STEPS["levels"](in_black=0.05, in_white=0.95, gamma=1.5), _levels, False),
    (STEPS["levels"](in_black=0.05, in_white=0.95),
     lambda x: (x - np.float32(0.05)) / np.float32(0.9), True),
    (STEPS["curve"](points=((0, 0), (0.4, 0.5), (1, 1))),
     lambda x: np.interp(x, [0, 0.4, 1], [0, 0.5, 1]).astype(np.float32), True),
    (STEPS["exposure"](stops=0.5), lambda x: x * np.float32(2**0.5), True),
    (STEPS["tone"](gain=(1.1, 1, 0.9), contrast=1.2, saturation=0.8), _grade, True),
    (STEPS["hue"](rotation=30), lambda x: x @ STEPS["hue"](rotation=30).matrix().T.astype(np.float32), True),  # type: ignore[attr-defined]
    (STEPS["clamp"](low=0.1, high=0.8), lambda x: np.clip(x, 0.1, 0.8), True),
    (STEPS["invert"](), lambda x: 1 - x, True),
]  # fmt: skip


def _point_rows(picture: PremultipliedPicture, rgba: Array) -> list[Row]:
    target = new_planes(RGBA, HEIGHT, WIDTH)

    def copy() -> None:
        def strip(a: int, b: int) -> None:
            for n in RGBA:
                np.copyto(target[n][a:b], picture[n][a:b])

        for_strips(HEIGHT, WIDTH * 4, strip)

    rows = []
    work: list[tuple[str, Step, Callable[[], object], bool]] = [
        (f"{s.kind}{' with gamma' if not plain else ''}", s, lambda f=f: _on_straight(rgba, f), plain)  # type: ignore[misc]
        for s, f, plain in POINT
    ]
    patch = STEPS["patch"](routes={"R": {"channel": "G", "gain": 0.5}, "A": {"channel": "luma"}})  # type: ignore[arg-type]

    def patched() -> Array:
        alpha = rgba[..., 3:]
        straight = np.divide(rgba[..., :3], alpha, out=rgba[..., :3].copy(), where=alpha > 0)
        out = np.empty_like(rgba)
        out[..., 3] = _luma(straight)
        out[..., 0] = straight[..., 1] * np.float32(0.5)
        out[..., 1:3] = straight[..., 1:]
        out[..., :3] *= out[..., 3:]
        return out

    work.append(("patch", patch, patched, True))
    for name, step, numpy, plain in work:
        times = best_of(
            {"ours": lambda s=step: apply_steps(picture, [s], 0, 1), "numpy": numpy, "copy": copy},  # type: ignore[misc]
            rounds=5,
        )
        faster = times["numpy"] / times["ours"]
        rows.append(
            Row(f"{name}, 4K", ms(times["ours"]), f"NumPy {ms(times['numpy'])}", faster, ">= 3", faster >= 3)
        )
        if plain:
            share = times["copy"] / times["ours"]
            rows.append(
                Row(f"{name}, share of copying", ms(times["ours"]), f"copy {ms(times['copy'])}", share,
                    ">= 0.4", share >= 0.4)
            )  # fmt: skip
    return rows


def _with_its_threads(call: Callable[[], object]) -> Callable[[], object]:
    """The library's call on as many threads as ours may use; ours makes each call on one."""

    def run() -> None:
        cv2.setNumThreads(workers())
        try:
            call()
        finally:
            cv2.setNumThreads(1)

    return run


def _field_rows(picture: PremultipliedPicture) -> list[Row]:
    planes = [picture[n] for n in RGBA]
    line = gaussian(8.0)
    angle = np.array([[0.9962, -0.0872, 60], [0.0872, 0.9962, -40]])
    pixels = picture.rgba()
    cases: list[tuple[str, Step, Callable[[], object], str]] = [
        ("blur, Gaussian 8 px", STEPS["blur"](size=8.0),
         lambda: [cv2.sepFilter2D(p, -1, line, line) for p in planes], "OpenCV"),
        ("grow by 3 px", STEPS["grow_shrink"](size=3.0, channels="rgba"),
         lambda: [cv2.dilate(p, footprint(3)) for p in planes], "OpenCV"),
        ("transform, 5 degrees, cubic", STEPS["transform"](rotation=5, x=60, y=-40),
         lambda: cv2.warpAffine(pixels, angle, (WIDTH, HEIGHT), flags=cv2.INTER_CUBIC), "OpenCV, one warp"),
    ]  # fmt: skip
    rows = []
    for name, step, raw, words in cases:
        raw = _with_its_threads(raw)
        times = best_of({"ours": lambda s=step: apply_steps(picture, [s], 0, 1), "raw": raw}, rounds=8)  # type: ignore[misc]
        ratio = times["ours"] / times["raw"]
        rows.append(
            Row(
                f"{name}, 4K",
                ms(times["ours"]),
                f"{words} {ms(times['raw'])}",
                ratio,
                "<= 1.15",
                ratio <= 1.15,
            )
        )
    return rows


def steps() -> list[Row]:
    picture = _picture()
    return [*_point_rows(picture, picture.rgba()), *_field_rows(picture)]
