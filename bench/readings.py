"""The suggested reading on every case of the test matrix, and how long readings on trial take."""

from __future__ import annotations

import multiprocessing
import os
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
from core.alpha import wider
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


class Outcome(NamedTuple):
    """What was suggested for a case, in words, and whether that is right, was decided and was called sure."""

    case: Case | wider.Wider
    right: bool
    decided: bool
    sure: bool
    words: str


def _one(case: Case | wider.Wider) -> Outcome:
    if isinstance(case, wider.Wider):
        got = suggest([StoredPicture.from_rgba(wider.stored(case))], "srgb", TOPS["8"])
        right = wider.is_right(case, got.reading)
    else:
        got = suggest([StoredPicture.from_rgba(element(case))], case.encoding, TOPS[case.storage[0]])
        right = is_right(case, got)
    words = got.reading.words() if got.reading else "cannot tell"
    return Outcome(case, right, got.reading is not None, got.sure, words)


def readings() -> list[Row]:
    every = list(cases())[:: sized(1, 160)]
    harder = list(wider.wider_cases(sized(5, 1)))[:: sized(1, 24)]
    # spawned, not forked: a fork would inherit locks that threads of the picture libraries hold
    own = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(len(os.sched_getaffinity(0)), mp_context=own) as pool:
        first = list(pool.map(_one, every, chunksize=8))
        second = list(pool.map(_one, harder, chunksize=8))
    if not SMALL:
        REPORT.write_text("\n".join([*_matrix(first), "", *_wider(second)]) + "\n")
    veils = [o for o in second if o.case.kind == "veil"]
    clear = [o for o in second if o.case.kind != "veil"]
    shares = (
        ("where the pixels decide", [o for o in first if o.case.kind in DECIDABLE], 0.98),
        ("where they do not", [o for o in first if o.case.kind not in DECIDABLE], 0.98),
        ("of glows, mixed pictures, inverted ones, soft balls", clear, 0.98),
        ("of pictures and gradients in the RGB", [o for o in second if o.case.kind in wider.MIXED], 0.95),
    )
    rows = [_share(name, [o.right for o in found], least) for name, found, least in shares if found]
    open_or_right = [o.right or not o.decided for o in veils]
    right_or_unsure = [o.right or not o.sure for o in (*first, *second)]
    rows.append(_share("of veils that are never clear, or left open", open_or_right, 0.98))
    rows.append(_share("of all, or not called sure", right_or_unsure, 0.998))
    return [*rows, _trial()]


def _share(name: str, right: list[bool], least: float) -> Row:
    share = sum(right) / len(right)
    return Row(
        f"right reading {name}", f"{sum(right)} of {len(right)}", "the reading that made it",
        share, f">= {least}", share >= least, "docs/readings-matrix.md",
    )  # fmt: skip


def _matrix(outcomes: list[Outcome]) -> list[str]:
    total, right = Counter(), Counter()  # type: ignore[var-annotated]
    for o in outcomes:
        total[o.case.kind, o.case.storage] += 1
        right[o.case.kind, o.case.storage] += o.right
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
    return lines + _wrong(outcomes)


def _wider(outcomes: list[Outcome]) -> list[str]:
    lines = [
        "## The kinds that go wrong most easily", "",
        "The cases of `tests/core/alpha/wider.py`: a veil's alpha never falls below one half, a glow has no",
        "edge of its own, a picture or a gradient is mixed into the RGB (no matte colour takes it out:",
        "straight is right), the alpha is inverted, a soft ball lies over a photograph; each clean, with",
        "noise, or damaged as JPEG of quality 85 does. *Open*: nothing is guessed. *Sure*: the screen does",
        "not ask to look twice.", "",
        "| kind | right | of these sure | open | wrong | of these sure |", "|---|---|---|---|---|---|",
    ]  # fmt: skip
    for kind in wider.KINDS:
        here = [o for o in outcomes if o.case.kind == kind]
        right = [o for o in here if o.right]
        wrong = [o for o in here if o.decided and not o.right]
        open_ = len(here) - len(right) - len(wrong)
        lines.append(
            f"| {kind} | {len(right)} of {len(here)} | {sum(o.sure for o in right)} | {open_} "
            f"| {len(wrong)} | {sum(o.sure for o in wrong)} |"
        )
    lines += [
        "",
        "A veil shows nothing of what lies behind it: its matte colour is an extrapolation from alphas of",
        "one half and more, and a photograph's own shading predicts the clearer pixel as well as a matte",
        "colour does. Such elements are left open, and *Compare readings* shows what each reading makes of",
        "them. A glow over a photograph leaves open by the same shading when it was multiplied, in light or",
        "in encoded values: it is guessed, and not called sure. What was guessed wrong:", "",
    ]  # fmt: skip
    return lines + _wrong([o for o in outcomes if o.decided])


def _wrong(outcomes: list[Outcome]) -> list[str]:
    return [f"- {o.case}: {o.words}{', sure' if o.sure else ''}" for o in outcomes if not o.right]


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
