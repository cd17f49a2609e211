"""Proving what was written, frames at hand, beside the decoder alone on the same files."""

from __future__ import annotations

import tempfile
from pathlib import Path

from delivery import FORMS, FRAMES, RATE, document, target_in
from ferrow_marsh.make import make
from measure import Row, best_of
from neatveil.comp.loading import parse_comp
from neatveil.delivery import Output, format_named, prove_together, write_together
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.numeric.ahead import ahead
from neatveil.numeric.pool import in_this_thread
from neatveil.numeric.threads import workers


def proof() -> list[Row]:
    frames = list(range(1, FRAMES + 1))
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        comp = parse_comp(document(make(folder / "in", FRAMES)))
        warm = Evaluator(LocalDecoder(), memory_bytes=3 << 30)
        ready = {f: warm.picture(comp, f, keep=False) for f in frames}
        rows = []
        for form in FORMS:
            made = format_named(form)
            one = Output(made, target_in(folder, made))
            write_together(ready.__getitem__, [one], frames, RATE)

            def ours(one: Output = one) -> None:
                prove_together(ready.__getitem__, LocalDecoder(), [one], frames, RATE, loss_accepted=True)

            def alone(one: Output = one) -> None:
                _decode(one, frames)

            times = best_of({"ours": ours, "alone": alone}, rounds=2)
            rates = {way: FRAMES / seconds for way, seconds in times.items()}
            ratio = rates["ours"] / rates["alone"]
            rows.append(
                Row(f"proof, {form}", f"{rates['ours']:.1f} fps", f"decoder alone {rates['alone']:.1f} fps",
                    ratio, ">= 0.8", ratio >= 0.8)
            )  # fmt: skip
        return rows


def _decode(one: Output, frames: list[int]) -> None:
    """All files, frames side by side on all processors; a movie in its order."""
    decoder = LocalDecoder()
    if one.format.kind == "movie":
        for index in range(len(frames)):
            decoder.read(str(one.target.path), index)
        return

    def read(frame: int) -> None:
        with in_this_thread():
            decoder.read(str(one.target.frame_path(frame)), 0)

    for _ in ahead(read, frames, workers()):
        pass
