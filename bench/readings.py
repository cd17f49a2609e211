"""The suggested reading on every case of the test matrix, and how long readings on trial take."""

from __future__ import annotations

import multiprocessing
import os
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import cv2
import numpy as np
from core.alpha.matrix import COLOURS, DECIDABLE, KINDS, STORAGES, Case, cases, decode, element
from measure import SMALL, Row, sized
from neatveil.alpha.suggest import Suggestion, suggest
from neatveil.alpha.suggest.places import worst_places
from neatveil.picture import StoredPicture
from neatveil.view import trial_sheet

#: How far an estimated matte colour may lie from the true one and be right, in code value.
NEAR = 0.03
TOPS = {"8": 255.0, "1": 65535.0, "h": 2048.0}
REPORT = Path(__file__).parents[1] / "docs" / "readings-matrix.md"


def is_right(case: Case, got: Suggestion) -> bool:
    """Whether the suggestion is what made the case, or no guess where the pixels cannot tell."""
    if case.kind not in DECIDABLE:
        return got.verdict == "cannot-tell"
    if case.truth == "straight":
        return got.verdict == "straight"
    if got.verdict != "premultiplied" or got.reading is None:
        return False
    matte = np.array(COLOURS[case.colour], np.float64)
    matte = decode(matte) if case.encoding == "linear" else matte
    near = bool(np.abs(np.array(got.reading.matte) - matte).max() < NEAR)
    return near and (case.encoding == "linear" or got.reading.multiplied == case.truth)


def _one(case: Case) -> tuple[Case, bool, str]:
    got = suggest([StoredPicture.from_rgba(element(case))], case.encoding, TOPS[case.storage[0]])
    words = got.reading.words() if got.reading else "cannot tell"
    return case, is_right(case, got), words


def readings() -> list[Row]:
    every = list(cases())[:: sized(1, 160)]
    # spawned, not forked: a fork would inherit locks that threads of the picture libraries hold
    own = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(len(os.sched_getaffinity(0)), mp_context=own) as pool:
        outcomes = list(pool.map(_one, every, chunksize=8))
    decided = [right for case, right, _ in outcomes if case.kind in DECIDABLE]
    opened = [right for case, right, _ in outcomes if case.kind not in DECIDABLE]
    if not SMALL:
        _report(outcomes)
    rows = []
    for name, rights in (("where the pixels decide", decided), ("where they do not", opened)):
        share = sum(rights) / len(rights)
        rows.append(
            Row(
                f"reading suggested, {name}", f"{sum(rights)} of {len(rights)}", "the reading that made it",
                share, ">= 0.98", share >= 0.98, "docs/readings-matrix.md",
            )
        )  # fmt: skip
    return [*rows, _trial()]


def _report(outcomes: list[tuple[Case, bool, str]]) -> None:
    total, right = Counter(), Counter()  # type: ignore[var-annotated]
    for case, good, _ in outcomes:
        total[case.kind, case.storage] += 1
        right[case.kind, case.storage] += good
    lines = [
        "# The suggested reading on the test matrix", "",
        "Written by `bench/run readings`; the cases are made by `tests/core/alpha/matrix.py`. Each is a",
        "textured foreground (photograph or smooth colour with grain), straight with one of twelve",
        "colours or its own drawn out in the RGB that the alpha hides, or premultiplied over one of twelve",
        "colours, in linear light or in encoded values. Lossy storage is WebP (4:2:0, quality 90), ProRes",
        "4444 and OpenEXR DWAA. Right means: straight or premultiplied, the matte colour within",
        f"{NEAR} in code value, and the values multiplied; for hard edges (no partly covered pixel) and",
        "opaque pictures, that nothing is guessed.", "",
        "| alpha | " + " | ".join(STORAGES) + " |", "|---" * (len(STORAGES) + 1) + "|",
    ]  # fmt: skip
    for kind in KINDS:
        cells = [f"{right[kind, s]} of {total[kind, s]}" for s in STORAGES]
        lines.append(f"| {kind} | " + " | ".join(cells) + " |")
    lines += ["", f"In all {sum(right.values())} of {sum(total.values())}. What went wrong:", ""]
    lines += [f"- {case}: {words}" for case, good, words in outcomes if not good]
    REPORT.write_text("\n".join(lines) + "\n")


def _large(width: int = 1920, height: int = 1080) -> StoredPicture:
    rng = np.random.default_rng(1)
    colour = cv2.resize(rng.random((9, 16, 3)), (width, height), interpolation=cv2.INTER_CUBIC).clip(0, 1)
    y, x = np.mgrid[:height, :width]
    wave = 60 * np.sin(np.arctan2(y - height / 2, x - width / 2) * 9)
    alpha = np.clip((380 + wave - np.hypot(x - width / 2, y - height / 2)) / 9, 0, 1)[..., None]
    held = colour * alpha + np.array([0.1, 0.6, 0.3]) * (1 - alpha)
    codes = np.rint(np.dstack([held, alpha]) * 255) / 255
    return StoredPicture.from_rgba(codes.astype(np.float32))


def _trial() -> Row:
    picture, best = _large(), float("inf")
    for _ in range(5):
        begun = time.perf_counter()
        found = suggest([picture], "srgb")
        candidates = [c.reading for c in found.candidates][:6]
        spots = worst_places({0: picture}, candidates, "srgb")
        for spot in spots:
            trial_sheet(picture, candidates, "srgb", spot.box)
        best = min(best, time.perf_counter() - begun)
    note = f"{len(candidates)} candidates, {len(spots)} places, four backgrounds each"
    return Row(
        "readings on trial, 1080p", f"{best * 1e3:.0f} ms", "1500 ms", best / 1.5, "<= 1", best <= 1.5, note
    )
