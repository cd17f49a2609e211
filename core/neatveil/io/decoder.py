"""Decoding: facts and frames of any source, in this process.

`Decoder` is the port that the evaluator reads through; `neatveil.io.isolated` offers the same from
limited processes, for bytes that are not trusted.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from pathlib import Path
from typing import Protocol

import numpy as np

from ..errors import FrameMissing, NeatVeilError
from ..picture import StoredPicture
from .backends import oiio_stills
from .backends.av_movies import MovieReader
from .facts import AlphaUse, Facts
from .formats import format_of
from .sequences import Pattern, missing_frames

OPEN_MOVIES = 6


class Decoder(Protocol):
    """What the evaluator needs of files."""

    def probe(self, source: str) -> Facts:
        """Facts of a file or of a pattern such as ``shot.####.exr``."""

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        """Code values of one frame: its number in a sequence, from 0 in a movie, any in a still."""


class LocalDecoder:
    """Decodes in this process; movies stay open between frames. Safe to use from many threads."""

    def __init__(self) -> None:
        self._movies: OrderedDict[str, tuple[tuple[int, int], MovieReader]] = OrderedDict()
        self._lock = threading.Lock()

    def probe(self, source: str) -> Facts:
        if Pattern.is_pattern(source):
            return self._probe_sequence(Pattern.parse(source))
        path = Path(source)
        if format_of(path).kind == "movie":
            with self._lock:
                facts = self._movie(path).facts()
        else:
            facts = oiio_stills.probe(path)
        return self._with_alpha_use(facts, source, [facts.first, (facts.first + facts.last) // 2])

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        if Pattern.is_pattern(source):
            path = Pattern.parse(source).path(frame)
            if not path.exists():
                raise FrameMissing(
                    f"Frame {frame} of {Path(source).name} is missing.",
                    advice="Render it again, or choose how gaps are filled.",
                    where=path.name,
                )
            return oiio_stills.read(path, planes)
        path = Path(source)
        if format_of(path).kind == "movie":
            with self._lock:
                return self._movie(path).read(frame)
        return oiio_stills.read(path, planes)

    def _movie(self, path: Path) -> MovieReader:
        try:
            stat = path.stat()
            stamp = (stat.st_mtime_ns, stat.st_size)
        except OSError:
            stamp = (0, 0)
        held = self._movies.pop(str(path), None)
        if held and held[0] != stamp:
            held[1].close()
            held = None
        if held is None:
            held = (stamp, MovieReader(path))
        self._movies[str(path)] = held
        while len(self._movies) > OPEN_MOVIES:
            self._movies.popitem(last=False)[1][1].close()
        return held[1]

    def _probe_sequence(self, pattern: Pattern) -> Facts:
        frames = pattern.frames()
        each = {f: oiio_stills.probe(pattern.path(f)) for f in frames}
        sizes = [(f.width, f.height) for f in each.values()]
        usual = max(set(sizes), key=sizes.count)
        lead = next(f for f in each.values() if (f.width, f.height) == usual)
        odd = {n: [f.width, f.height] for n, f in each.items() if (f.width, f.height) != usual}
        missing = missing_frames(frames)
        notes = list(lead.notes)
        if missing:
            notes.append(f"{len(missing)} of {frames[-1] - frames[0] + 1} frames are missing.")
        if odd:
            n, size = next(iter(odd.items()))
            notes.append(
                f"{len(odd)} frames are of another size than {usual[0]} x {usual[1]}, "
                f"such as frame {n} with {size[0]} x {size[1]}."
            )
        facts = lead.model_copy(
            update={
                "kind": "sequence", "name": pattern.text, "first": frames[0], "last": frames[-1],
                "count": len(frames), "missing": missing, "odd_sizes": odd, "notes": notes,
                "bytes": sum(f.bytes for f in each.values()),
            }
        )  # fmt: skip
        source = str(pattern.folder / pattern.text)
        return self._with_alpha_use(facts, source, [frames[0], frames[len(frames) // 2]])

    def _with_alpha_use(self, facts: Facts, source: str, frames: list[int]) -> Facts:
        """Look at a first and a middle frame: is the alpha all 1, all 0, or used?"""
        use: AlphaUse = "none"
        if facts.alpha:
            low, high = np.inf, -np.inf
            for frame in sorted(set(frames)):
                alpha = self.read(source, frame, ["A"] if facts.kind != "movie" else None)["A"]
                low, high = min(low, float(alpha.min())), max(high, float(alpha.max()))
            use = "opaque" if low >= 1 else "empty" if high <= 0 else "used"
        else:
            self.read(source, frames[0])
        return facts.model_copy(update={"alpha_use": use})


def describe(error: NeatVeilError) -> dict[str, str]:
    """An error as plain data, the same everywhere."""
    return {"code": error.code, "message": error.message, "advice": error.advice, "where": error.where}
