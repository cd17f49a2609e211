"""Delivering the demo's comp, against the encoder alone on the same frames."""

from __future__ import annotations

import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from pathlib import Path

from ferrow_marsh.make import make
from measure import Row
from neatveil.comp.document import parse_comp
from neatveil.delivery import Target, form_named, write_frames
from neatveil.delivery.write import meant
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_stills
from neatveil.numeric.threads import workers

FRAMES = 12


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
    layers[1]["place"] = {"x": -380, "y": -180, "scale": 0.9}
    layers[2]["steps"] = [{"kind": "levels", "gamma": 1.2}]
    return {"rate": str(Fraction(25)), "first": 1, "last": FRAMES, "elements": elements, "layers": layers}


def delivery() -> list[Row]:
    rows = []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        comp = parse_comp(document(make(folder / "in", FRAMES)))
        frames = range(1, FRAMES + 1)
        for form_name in ("png16-straight", "exr-half-premultiplied"):
            form = form_named(form_name)
            evaluator = Evaluator(LocalDecoder(), cache_bytes=400 << 20)
            stored = {f: meant(evaluator.picture(comp, f), form) for f in frames}

            def encode(frame: int, form=form, stored=stored) -> None:
                oiio_stills.write(
                    folder / f"alone.{frame:04d}{form.ending}",
                    stored[frame],
                    sample=form.sample,
                    alpha_straight=form.reading.alpha == "straight",
                    encoding=form.encoding,
                    compression=form.compression,
                )

            best = {"ours": 0.0, "alone": 0.0}
            for round_ in range(3):
                begun = time.perf_counter()
                with ThreadPoolExecutor(workers()) as pool:
                    list(pool.map(encode, frames))
                best["alone"] = max(best["alone"], FRAMES / (time.perf_counter() - begun))
                fresh = Evaluator(LocalDecoder(), cache_bytes=400 << 20)
                target = Target(folder / f"out{round_}" / f"d.####{form.ending}")
                begun = time.perf_counter()
                write_frames(lambda f, fresh=fresh: fresh.picture(comp, f), form, target, frames)
                best["ours"] = max(best["ours"], FRAMES / (time.perf_counter() - begun))
            ratio = best["ours"] / best["alone"]
            rows.append(
                Row(
                    f"delivery, {form_name}",
                    f"{best['ours']:.2f} fps",
                    f"encoder alone {best['alone']:.2f} fps",
                    ratio,
                    ">= 0.8",
                    ratio >= 0.8,
                    "sources decoded from files, nothing in the cache",
                )
            )
    return rows
