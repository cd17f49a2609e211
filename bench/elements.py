"""Bringing in, scrubbing and rewriting elements, beside the decoder and the encoder alone."""

from __future__ import annotations

import resource
import tempfile
import time
from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import OpenImageIO as oiio
from measure import Row, sized
from neatveil.alpha import Reading
from neatveil.codecs import codec_named
from neatveil.comp import Element
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.io.backends.av_writing import MovieWriter
from neatveil.picture import StoredPicture
from neatveil.transcode import as_held, transcode
from neatveil.view import Look, Screen, show

WIDTH, HEIGHT, COUNT = sized((1920, 1080, 24), (480, 270, 2))
MANY = sized(10_000, 20)
LEVEL = 1  # the viewer's size at 1280 x 800


def _frame(number: int) -> StoredPicture:
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    reach = 330 + 40 * np.sin(np.arctan2(y - 540, x - 960) * 7 + number)
    alpha = np.clip((reach - np.hypot(x - 960, y - 540)) / 6, 0, 1)
    grain = np.random.default_rng(number).normal(0, 0.01, (HEIGHT, WIDTH)).astype(np.float32)
    planes = {n: (0.5 + 0.4 * np.sin(x / (90 + 30 * i)) + grain) * alpha for i, n in enumerate("RGB")}
    return StoredPicture({n: np.clip(p, 0, 1).astype(np.float32) for n, p in {**planes, "A": alpha}.items()})


def _sequence(folder: Path) -> Element:
    for n in range(1, COUNT + 1):
        oiio_writing.write(
            folder / f"kite.{n:04d}.exr", _frame(n), sample="half", alpha_straight=False, encoding="linear",
            compression="zip",
        )  # fmt: skip
    return Element(
        name="kite", file=str(folder / "kite.####.exr"), first=1, last=COUNT, encoding="linear",
        reading=Reading(alpha="premultiplied"), rate=Fraction(25),
    )  # fmt: skip


def _per_second(work: Callable[[int], object], frames: Iterable[int], rounds: int = 3) -> float:
    best, numbers = 0.0, list(frames)
    for _ in range(rounds):
        begun = time.perf_counter()
        for n in numbers:
            work(n)
        best = max(best, len(numbers) / (time.perf_counter() - begun))
    return best


def _shown(evaluator: Evaluator, element: Element, frame: int) -> bytes:
    """As the server answers while somebody scrubs: a JPEG of the viewer's size."""
    picture = evaluator.source(element, frame, LEVEL)
    screen = Screen(Look(), picture.data_window, "bgr")
    show(picture, screen)
    _, data = cv2.imencode(".jpg", screen.out, [cv2.IMWRITE_JPEG_QUALITY, 85])
    return data.tobytes()


def _scrubbing(element: Element) -> list[Row]:
    frames = range(1, COUNT + 1)

    def alone(frame: int) -> None:
        source = oiio.ImageInput.open(element.file.replace("####", f"{frame:04d}"))
        source.read_image(0, 0, 0, 4, oiio.HALF)
        source.close()

    decoder = LocalDecoder()
    ours = reference = 0.0
    for _ in range(3):  # they take turns
        reference = max(reference, _per_second(alone, frames, 1))
        fresh = Evaluator(decoder, memory_bytes=256 << 20)
        ours = max(ours, _per_second(lambda f, e=fresh: _shown(e, element, f), frames, 1))  # type: ignore[misc]
    warm = Evaluator(decoder, memory_bytes=2 << 30)
    for f in frames:
        _shown(warm, element, f)
    again = _per_second(lambda f: _shown(warm, element, f), frames)
    ratio = ours / reference
    return [
        Row("scrubbing, 1080p half EXR", f"{ours:.1f} fps", f"decoder alone {reference:.1f} fps", ratio,
            ">= 0.8", ratio >= 0.8, "decoded, read, halved, shown, JPEG"),
        Row("scrubbing again, from the cache", f"{again:.0f} fps", "60 fps", again / 60, ">= 1", again >= 60,
            "shown, JPEG"),
    ]  # fmt: skip


def _first_picture(element: Element, folder: Path) -> list[Row]:
    movie = folder / "kite.mov"
    writer = MovieWriter(
        movie, WIDTH, HEIGHT, Fraction(25), codec="prores_ks", pixel_format="yuva444p10le",
        options={"profile": "4444", "alpha_bits": "16"}, encoding="rec709", container="mov",
    )  # fmt: skip
    for n in range(1, COUNT + 1):
        writer.write(_frame(n))
    writer.close()
    rows = []
    for name, source in (("movie", str(movie)), ("EXR sequence", element.file)):
        best = float("inf")
        for _ in range(3):
            begun = time.perf_counter()
            facts = LocalDecoder().probe(source)
            one = element.model_copy(update={"file": source, "first": facts.first, "last": facts.last})
            _shown(Evaluator(LocalDecoder()), one, (facts.first + facts.last) // 2)
            best = min(best, time.perf_counter() - begun)
        rows.append(
            Row(f"first picture of a 1080p {name}", f"{best * 1e3:.0f} ms", "1000 ms", best, "<= 1",
                best <= 1, "facts and picture, without the queue")
        )  # fmt: skip
    return rows


def _many_frames(folder: Path) -> Row:
    small = StoredPicture.from_rgba(np.full((270, 480, 4), 0.5, np.float32))
    first = folder / "many.00000.exr"
    oiio_writing.write(
        first, small, sample="half", alpha_straight=False, encoding="linear", compression="zip"
    )
    data = first.read_bytes()
    for n in range(1, MANY):
        (folder / f"many.{n:05d}.exr").write_bytes(data)
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    begun = time.perf_counter()
    facts = LocalDecoder().probe(str(folder / "many.#####.exr"))
    spent = time.perf_counter() - begun
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
    return Row(
        f"facts of {MANY:,} frames", f"{spent:.2f} s", "5 s", spent / 5, "<= 1", spent <= 5,
        f"{facts.count} headers, {grown:.0f} MB more memory",
    )  # fmt: skip


def _rewriting(element: Element, folder: Path) -> list[Row]:
    rows, decoder = [], LocalDecoder()
    frames = list(range(1, COUNT + 1))
    decode = _per_second(lambda f: decoder.read(element.file, f), frames)
    for name in ("prores4444", "png-movie", "exr"):
        codec = codec_named(name)
        held = [as_held(decoder.read(element.file, f), element, codec) for f in frames]
        encode = ours = 0.0
        for turn in range(2):
            begun = time.perf_counter()
            _encode_alone(codec, held, folder / f"alone{turn}")
            encode = max(encode, COUNT / (time.perf_counter() - begun))
            target = folder / (
                f"r{turn}{codec.ending}" if codec.kind == "movie" else f"r{turn}.####{codec.ending}"
            )
            begun = time.perf_counter()
            transcode(element, decoder, codec, target, frames, rate=Fraction(25))
            ours = max(ours, COUNT / (time.perf_counter() - begun))
        slower = min(decode, encode)
        ratio = ours / slower
        # both need the same processors: what is left if neither waits and nothing else is done
        most = 1 / (1 / decode + 1 / encode) / slower
        which = "encoder" if encode < decode else "decoder"
        rows.append(
            Row(f"rewriting, {name}", f"{ours:.1f} fps", f"{which} alone {slower:.1f} fps", ratio, ">= 0.8",
                ratio >= 0.8, f"one after the other could be at most {most:.2f}")
        )  # fmt: skip
    return rows


def _encode_alone(codec, held, stem: Path) -> None:  # type: ignore[no-untyped-def]
    from concurrent.futures import ThreadPoolExecutor

    from neatveil.numeric.threads import workers

    if codec.kind == "movie":
        writer = MovieWriter(
            stem.with_suffix(codec.ending), WIDTH, HEIGHT, Fraction(25), codec=codec.encoder,
            pixel_format=codec.pixel_format, options=codec.options, encoding="srgb",
            container=codec.container,
        )  # fmt: skip
        for picture in held:
            writer.write(picture)
        writer.close()
        return

    def one(job) -> None:  # type: ignore[no-untyped-def]
        index, picture = job
        oiio_writing.write(
            stem.with_name(f"{stem.name}.{index:04d}{codec.ending}"), picture, sample=codec.sample,
            alpha_straight=False, encoding="linear", compression=codec.compression,
        )  # fmt: skip

    with ThreadPoolExecutor(workers()) as pool:
        list(pool.map(one, enumerate(held)))


def elements() -> list[Row]:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        element = _sequence(folder)
        rows = [*_scrubbing(element), *_first_picture(element, folder), *_rewriting(element, folder)]
        return [*rows, _many_frames(folder)]
