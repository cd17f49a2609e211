"""Delivering the demo's comp, against the encoder alone on the same frames, and in four forms at once."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Sequence
from fractions import Fraction
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
from ferrow_marsh.make import make
from measure import Row, best_of, ms, sized
from neatveil.comp import Comp
from neatveil.comp.loading import parse_comp
from neatveil.delivery import Output, Target, format_named, write_together
from neatveil.delivery.formats import DeliveryFormat
from neatveil.delivery.write import meant
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing, png_writing
from neatveil.io.backends.av_writing import write_pictures
from neatveil.io.backends.samples import to_codes
from neatveil.numeric.ahead import ahead
from neatveil.numeric.pool import in_this_thread
from neatveil.numeric.threads import workers
from neatveil.picture import RGBA, PremultipliedPicture, StoredPicture

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
        return [_png(comp, folder), *_forms(comp, folder), _together(comp, folder)]


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
        return [Output(f, target_in(folder / to, f)) for f in map(format_named, names)]

    def together() -> None:
        write_together(_evaluated(comp), outputs(FORMS, "together"), frames, RATE)

    def encode(name: str) -> Callable[[], None]:
        return lambda: write_together(ready.__getitem__, outputs([name], "each"), frames, RATE)

    ways: dict[str, Callable[[], None]] = {n: encode(n) for n in FORMS}
    times = best_of({"together": together, "evaluation": lambda: _evaluate(comp), **ways}, rounds=2)
    ours = times.pop("together")
    parts = ", ".join(f"{name} {seconds:.1f} s" for name, seconds in times.items())
    ratio = ours / sum(times.values())
    return Row(f"four forms in one order, {FRAMES} frames", f"{ours:.1f} s",
               f"evaluation once and each encoder {sum(times.values()):.1f} s", ratio, "<= 1.15",
               ratio <= 1.15, parts)  # fmt: skip


def _forms(comp: Comp, folder: Path) -> list[Row]:
    """Each form by itself: frames at hand beside its encoder alone, and evaluated beside what both allow."""
    frames = range(1, FRAMES + 1)
    warm = Evaluator(LocalDecoder(), memory_bytes=3 << 30)
    ready = {f: warm.picture(comp, f, keep=False) for f in frames}
    evaluation = FRAMES / best_of({"evaluation": lambda: _evaluate(comp)}, rounds=2)["evaluation"]
    rows = []
    for name in FORMS:
        made = format_named(name)
        one = Output(made, target_in(folder / "forms", made))
        stored = {f: meant(picture, made, f) for f, picture in ready.items()}

        def ours(one: Output = one) -> None:
            write_together(ready.__getitem__, [one], frames, RATE)

        def shared(one: Output = one) -> None:
            write_together(_evaluated(comp), [one], frames, RATE)

        def alone(made: DeliveryFormat = made, stored: dict[int, StoredPicture] = stored) -> None:
            _encode(made, stored, folder / "alone")

        times = best_of({"ours": ours, "shared": shared, "alone": alone}, rounds=2)
        rates = {way: FRAMES / seconds for way, seconds in times.items()}
        encoder = rates["alone"]
        for way, most in (("ours", encoder), ("shared", 1 / (1 / evaluation + 1 / encoder))):
            ratio = rates[way] / most
            said = "encoder alone" if way == "ours" else "evaluation and encoder allow"
            title = "frames at hand" if way == "ours" else "evaluated"
            rows.append(Row(f"delivery, {name}, {title}", f"{rates[way]:.2f} fps", f"{said} {most:.2f} fps",
                            ratio, ">= 0.9", ratio >= 0.9))  # fmt: skip
    return rows


def _encode(made: DeliveryFormat, stored: dict[int, StoredPicture], folder: Path) -> None:
    """Codes that are there already into files: on all processors, or in order into one movie."""
    target = target_in(folder, made)
    folder.mkdir(exist_ok=True)
    if made.kind == "movie":
        write_pictures(target.path, stored.items(), RATE, codec=made.codec, encoding=made.encoding)
        return

    def one(frame: int) -> None:
        with in_this_thread():
            oiio_writing.write(
                target.frame_path(frame), stored[frame], sample=made.codec.sample, encoding=made.encoding,
                alpha_straight=made.reading.alpha == "straight", compression=made.codec.compression,
            )  # fmt: skip

    for _ in ahead(one, stored, workers()):
        pass


def target_in(folder: Path, made: DeliveryFormat) -> Target:
    return Target(folder / f"{made.name}{'' if made.kind == 'movie' else '.####'}{made.ending}")


def _evaluated(comp: Comp) -> Callable[[int], PremultipliedPicture]:
    """Nothing is kept from before."""
    fresh = Evaluator(LocalDecoder(), memory_bytes=400 << 20)
    return lambda frame: fresh.picture(comp, frame, keep=False)


def _evaluate(comp: Comp) -> None:
    """All frames with their decoding, on all processors."""
    picture = _evaluated(comp)

    def one(frame: int) -> None:
        with in_this_thread():
            picture(frame)

    for _ in ahead(one, range(1, FRAMES + 1), workers()):
        pass
