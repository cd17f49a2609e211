"""Mattes at 4K: channels, values that keep, combinations, small regions; beside NumPy and the library."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
from core.mattes.shots import eight_bit, light_of
from ferrow_marsh import reeds
from measure import Row, best_of, ms, sized
from neatveil.evaluate.matting import part_matte
from neatveil.mattes import ChannelPart, Drawn, Matte, Rows
from neatveil.mattes.board import board
from neatveil.mattes.morphology import footprint
from neatveil.mattes.natural import edge_found, sketch_of
from neatveil.picture import Box
from pymatting import estimate_alpha_cf
from quality import SKY, STALKS

HEIGHT, WIDTH = sized((2160, 3840), (1080, 1920))
Array = Any


def _board(planes: dict[str, Array]) -> Row:
    """Every candidate of a 1080p frame with its figures and its small picture, as a file."""
    small = {n: np.ascontiguousarray(p[:1080, :1920]) for n, p in planes.items()}
    grey = {n: np.ascontiguousarray(p[4::8, 4::8]) for n, p in small.items()}
    stay, go = [Box(0, 0, 700, 500)], [Box(900, 500, 1900, 1000)]

    def ours() -> None:
        for c in board(small, grey, stay, go):
            cv2.imencode(".png", np.rint(c.grey * 255).astype(np.uint8))

    times = best_of({"ours": ours, "copy": lambda: {n: p.copy() for n, p in small.items()}}, rounds=4)
    return Row("channel board, all candidates, 1080p", ms(times["ours"]), f"copying it {ms(times['copy'])}",
               times["ours"] / times["copy"], "< 700 ms", times["ours"] < 0.7)  # fmt: skip


def _natural() -> list[Row]:
    """The demo's reeds from their best channel; beside PyMatting's own answer to the same sketch."""
    planes = light_of(eight_bit(reeds.shot(3)))
    small = {n: np.ascontiguousarray(p[4::8, 4::8]) for n, p in planes.items()}
    best = board(planes, small, STALKS, SKY)[0]
    part = ChannelPart(channel=best.channel, low=best.low, high=best.high, inverted=best.inverted)  # type: ignore[arg-type]
    rough = part_matte(part, Rows(planes))
    rows = []
    for name, level in (("1080p", sized(0, 1)), ("draft at half size", 1)):
        step = 2**level
        size = 1920 // step, 1080 // step
        seen = {n: cv2.resize(p, size, interpolation=cv2.INTER_AREA) for n, p in planes.items()}
        grey, band = cv2.resize(rough, size, interpolation=cv2.INTER_AREA), max(0.5, 3 / step)
        core, unknown = sketch_of(grey, band)
        tones = np.where(unknown, 0.5, core.astype(float))
        light = np.stack([seen[n] for n in "RGB"], -1).astype(float)
        times = best_of({
            "ours": lambda s=seen, g=grey, b=band: edge_found(s, g, b, 0.001),  # type: ignore[misc]
            "theirs": lambda x=light, t=tones: estimate_alpha_cf(x, t),  # type: ignore[misc]
        }, rounds=2)  # fmt: skip
        ratio, ours = times["ours"] / times["theirs"], times["ours"]
        most, reached = ("<= 1.2", ratio <= 1.2) if name == "1080p" else ("< 1.5 s", ours < 1.5)
        rows.append(
            Row(f"natural matte, {name}", ms(ours), f"PyMatting {ms(times['theirs'])}", ratio, most, reached,
                f"{unknown.mean():.0%} of the pixels unknown")
        )  # fmt: skip
    return rows


def mattes() -> list[Row]:
    rng = np.random.default_rng(3)
    planes = {n: rng.random((HEIGHT, WIDTH), np.float32) for n in "RGBA"}
    r, g, b, a = (planes[n] for n in "RGBA")
    weights = [np.float32(w) for w in (0.2126, 0.7152, 0.0722)]
    luma = ChannelPart(channel="luma", low=0.2, high=0.7, space="light")
    key = ChannelPart(channel="green-difference", low=0.05, high=0.4, inverted=True, space="light")
    band = ChannelPart(shape="range", low=0.3, high=0.6, soft=0.1)
    rows_of = Rows(planes)
    two = Matte(parts=(ChannelPart(), ChannelPart(combine="subtract")))

    def ramp(x: Array, low: float, high: float) -> Array:
        return np.clip((x - np.float32(low)) / np.float32(high - low), 0, 1)

    cases: list[tuple[str, Callable[[], object], Callable[[], object]]] = [
        ("luma, crushed", lambda: part_matte(luma, rows_of),
         lambda: ramp(weights[0] * r + weights[1] * g + weights[2] * b, 0.2, 0.7)),
        ("green difference", lambda: part_matte(key, rows_of),
         lambda: 1 - ramp(np.maximum(g - np.maximum(r, b), 0), 0.05, 0.4)),
        ("soft range", lambda: part_matte(band, rows_of),
         lambda: np.clip(1 - np.maximum(np.float32(0.3) - a, a - np.float32(0.6)) / np.float32(0.1), 0, 1)),
        ("one minus another", lambda: two.joined([Drawn(a), Drawn(r)]), lambda: np.clip(a - r, 0, 1)),
    ]  # fmt: skip
    rows = []
    out = np.empty_like(a)
    for name, ours, numpy in cases:
        times = best_of({"ours": ours, "numpy": numpy, "copy": lambda: np.copyto(out, a)}, rounds=5)
        faster = times["numpy"] / times["ours"]
        rows.append(
            Row(f"{name}, 4K", ms(times["ours"]), f"NumPy {ms(times['numpy'])}", faster, ">= 3", faster >= 3,
                f"copying one plane {ms(times['copy'])}")
        )  # fmt: skip
    rows.append(_board(planes))
    spots = (cv2.GaussianBlur(a, (0, 0), 3) > 0.52).astype(np.float32)
    raw: list[tuple[str, Matte, Callable[[], object]]] = [
        ("specks", Matte(specks=40),
         lambda: cv2.connectedComponentsWithStats((spots > 0).astype(np.uint8), connectivity=8)),
        ("grow by 3 px", Matte(grow=3), lambda: cv2.dilate(spots, footprint(3))),
    ]  # fmt: skip
    for name, matte, call in raw:
        times = best_of({"ours": lambda m=matte: m.refined(spots, 0), "raw": call}, rounds=4)  # type: ignore[misc]
        ratio = times["ours"] / times["raw"]
        rows.append(
            Row(f"{name} of a matte, 4K", ms(times["ours"]), f"OpenCV {ms(times['raw'])}", ratio, "<= 1.15",
                ratio <= 1.15)
        )  # fmt: skip
    return [*rows, *_natural()]
