"""Delivering the demo's comp, against the encoder alone on the same frames, and in four forms at once."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
from ferrow_marsh.make import make
from measure import Row, best_of, ms, sized
from neatveil.comp import Comp
from neatveil.comp.loading import parse_comp
from neatveil.delivery import Output, Target, format_named, write_frames, write_together
from neatveil.delivery.formats import DeliveryFormat
from neatveil.delivery.write import meant
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing, png_writing
from neatveil.io.backends.samples import to_codes
from neatveil.numeric.ahead import ahead
from neatveil.numeric.pool import in_this_thread
from neatveil.numeric.threads import workers
from neatveil.picture import RGBA

FRAMES = sized(12, 2)
RATE = Fraction(25)
FORMS = ("png16-straight", "exr-half-premultiplied", "prores4444-straight", "h264-viewing")


def document(files: dict[str, Path]) -> dict[str, object]:
    """The demo's comp over files in a folder."""
    facts = {
        "plate": {"first": 1, "last": FRAMES, "encoding": "srgb", "reading": {"alpha": "none"}},
        "kite": {"first": 0, "last": FRAMES - 1, "encoding": "rec709", "rate": "25"},
        "lantern": {"first": 1, "last": FRAMES, "encoding": "linear", "reading": {"alpha": "premultiplied"}},
        "caption": {"first": 1, "last": FRAMES, "encoding": "srgb"},
    }
    elements = {k: {"file": str(files[k]), **v} for k, v in facts.items()}
    layers: list[dict[str, object]] = [{"id": k, "name": k, "element": k} for k in facts]
    layers[1]["transform"] = {"x": -380, "y": -180, "scale": 0.9}
    layers[2]["steps"] = [{"kind": "levels", "gamma": 1.2}]
    return {"rate": str(RATE), "first": 1, "last": FRAMES, "elements": elements, "layers": layers}


def delivery() -> list[Row]:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        comp = parse_comp(document(make(folder / "in", FRAMES)))
        rows = [row for form in FORMS[:2] for row in _one_form(comp, format_named(form), folder)]
        return [_png(comp, folder), *rows, _together(comp, folder)]


def _png(comp: Comp, folder: Path) -> Row:
    """One frame of 16 bits, beside OpenImageIO's writer at its fastest setting that makes files small."""
    picture = Evaluator(LocalDecoder()).picture(comp, 1, keep=False)
    stored = meant(picture, format_named("png16-straight"))
    block = to_codes([stored[n] for n in RGBA], np.uint16)
    height, width, _ = block.shape

    def theirs() -> None:
        spec = oiio.ImageSpec(width, height, 4, "uint16")
        spec.attribute("oiio:UnassociatedAlpha", 1)
        spec.attribute("png:compressionLevel", 1)
        spec.attribute("png:filter", 8)
        file = oiio.ImageOutput.create(str(folder / "theirs.png"))
        if not (file.open(str(folder / "theirs.png"), spec) and file.write_image(block) and file.close()):
            raise RuntimeError(file.geterror())

    def ours() -> None:
        with in_this_thread():
            png_writing.save(folder / "ours.png", block, "srgb")

    times = best_of({"ours": ours, "theirs": theirs}, rounds=5)
    sizes = [(folder / f"{n}.png").stat().st_size / 1e6 for n in ("ours", "theirs")]
    ratio = times["theirs"] / times["ours"]
    return Row(f"PNG of 16 bits, {width} x {height}, one thread", ms(times["ours"]),
               f"OpenImageIO, level 1, filter Sub {ms(times['theirs'])}", ratio, ">= 2.5 times its rate",
               ratio >= 2.5, f"{sizes[0]:.1f} MB, theirs {sizes[1]:.1f} MB")  # fmt: skip


def _together(comp: Comp, folder: Path) -> Row:
    """Four forms in one order, beside evaluating the frames once and each encoder on frames at hand."""
    frames = range(1, FRAMES + 1)
    warm = Evaluator(LocalDecoder(), memory_bytes=3 << 30)
    ready = {f: warm.picture(comp, f, keep=False) for f in frames}

    def outputs(names: Sequence[str], to: str) -> list[Output]:
        made = [format_named(n) for n in names]
        return [
            Output(f, Target(folder / to / f"{f.name}{'' if f.kind == 'movie' else '.####'}{f.ending}"))
            for f in made
        ]

    def evaluate() -> None:
        fresh = Evaluator(LocalDecoder(), memory_bytes=400 << 20)

        def one(frame: int) -> None:
            with in_this_thread():
                fresh.picture(comp, frame, keep=False)

        for _ in ahead(one, frames, workers()):
            pass

    def together() -> None:
        fresh = Evaluator(LocalDecoder(), memory_bytes=400 << 20)
        write_together(lambda f: fresh.picture(comp, f, keep=False), outputs(FORMS, "together"), frames, RATE)

    def encode(name: str) -> Callable[[], None]:
        return lambda: write_together(ready.__getitem__, outputs([name], "each"), frames, RATE)

    ways: dict[str, Callable[[], None]] = {n: encode(n) for n in FORMS}
    times = best_of({"together": together, "evaluation": evaluate, **ways}, rounds=2)
    ours = times.pop("together")
    parts = ", ".join(f"{name} {seconds:.1f} s" for name, seconds in times.items())
    ratio = ours / sum(times.values())
    return Row(f"four forms in one order, {FRAMES} frames", f"{ours:.1f} s",
               f"evaluation once and each encoder {sum(times.values()):.1f} s", ratio, "<= 1.15",
               ratio <= 1.15, parts)  # fmt: skip


def _one_form(comp: Comp, delivery_format: DeliveryFormat, folder: Path) -> list[Row]:
    frames = range(1, FRAMES + 1)
    warm = Evaluator(LocalDecoder(), memory_bytes=3 << 30)
    stored = {f: meant(warm.picture(comp, f, keep=False), delivery_format) for f in frames}

    def encode(frame: int) -> None:
        oiio_writing.write(
            folder / f"alone.{frame:04d}{delivery_format.ending}",
            stored[frame],
            sample=delivery_format.codec.sample,
            alpha_straight=delivery_format.reading.alpha == "straight",
            encoding=delivery_format.encoding,
            compression=delivery_format.codec.compression,
        )

    def alone() -> None:
        with ThreadPoolExecutor(workers()) as pool:
            list(pool.map(encode, frames))

    def deliver(evaluator: Evaluator) -> None:
        target = Target(folder / "out" / f"d.####{delivery_format.ending}")
        write_frames(lambda f: evaluator.picture(comp, f, keep=False), delivery_format, target, frames)

    best = dict.fromkeys(("alone", "at hand", "read"), 0.0)
    ways = {
        "alone": alone,
        "at hand": lambda: deliver(warm),
        "read": lambda: deliver(Evaluator(LocalDecoder(), memory_bytes=400 << 20)),
    }
    for _ in range(sized(3, 1)):
        for name, work in ways.items():
            begun = time.perf_counter()
            work()
            best[name] = max(best[name], FRAMES / (time.perf_counter() - begun))
    notes = {"at hand": "sources in the cache", "read": "sources decoded by the same processors"}
    return [_row(delivery_format, best[how], best["alone"], note) for how, note in notes.items()]


def _row(delivery_format: DeliveryFormat, ours: float, alone: float, note: str) -> Row:
    ratio = ours / alone
    case, reference = f"delivery, {delivery_format.name}", f"encoder alone {alone:.2f} fps"
    return Row(case, f"{ours:.2f} fps", reference, ratio, ">= 0.8", ratio >= 0.8, note)
