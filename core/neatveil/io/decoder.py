"""Decoding: facts and frames of any source, in this process.

`Decoder` is the port that the evaluator reads through; `neatveil.io.isolated` offers the same from
limited processes, for bytes that are not trusted.
"""

from __future__ import annotations

import threading
from collections import Counter, OrderedDict
from pathlib import Path
from typing import Protocol

import numpy as np

from ..errors import FileDamaged, FrameMissing, NeatVeilError
from ..numeric.pool import for_each
from ..picture import StoredPicture
from .backends import stills, svg
from .backends.movies import AnyMovie, is_movie, open_movie
from .codecs import limits_of
from .facts import AlphaUse, Facts
from .sequences import Pattern, missing_frames, runs_in_words

OPEN_MOVIES = 6


class Decoder(Protocol):
    """What the evaluator needs of files."""

    def probe(self, source: str) -> Facts:
        """Facts of a file or of a pattern such as ``shot.####.exr``."""

    def survey(self, source: str, facts: Facts) -> Facts:
        """The facts with the least and largest value of every channel."""

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        """Code values of one frame: its number in a sequence, from 0 in a movie, any in a still."""

    def read_halved(self, source: str, frame: int) -> StoredPicture | None:
        """Means of 2 x 2 code values of R, G, B (and A); None where `read` is no slower for it.

        What a halved picture is made of only where code values are light: linear, and premultiplied
        over black or opaque.
        """

    def draw(self, source: str, frame: int, level: int) -> StoredPicture:
        """A file that is drawn (`neatveil.io.formats.is_drawing`), 2^-``level`` times as wide as it says.

        ``level``: 0 or below.
        """


class LocalDecoder:
    """Decodes in this process; movies stay open between frames. Safe to use from many threads."""

    def __init__(self) -> None:
        self._movies: OrderedDict[str, tuple[tuple[int, int], AnyMovie]] = OrderedDict()
        self._lock = threading.Lock()

    def probe(self, source: str) -> Facts:
        if Pattern.is_pattern(source):
            facts = probe_sequence(Pattern.parse(source))
            # a frame of the usual size that is there
            odd = {*facts.odd_sizes, *facts.missing}
            sound = [f for f in (facts.first, _middle(facts)) if f not in odd] or [facts.first]
            return self._with_alpha_use(facts, source, sound)
        path = Path(source)
        if is_movie(path):
            with self._lock:
                facts = self._movie(path).facts()
        else:
            facts = stills.probe(path)
        return self._with_alpha_use(facts, source, [facts.first, (facts.first + facts.last) // 2])

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        path = _file(source, frame)
        if is_movie(path):
            with self._lock:
                return self._movie(path).read(frame)
        return stills.read(path, planes)

    def read_halved(self, source: str, frame: int) -> StoredPicture | None:
        path = _file(source, frame)
        return None if is_movie(path) else stills.read_halved(path)

    def draw(self, source: str, frame: int, level: int) -> StoredPicture:
        return svg.draw(_file(source, frame), level)

    def _movie(self, path: Path) -> AnyMovie:
        try:
            stat = path.stat()
            stamp = (stat.st_mtime_ns, stat.st_size)
        except OSError:
            stamp = (0, 0)
        opened = self._movies.pop(str(path), None)
        if opened and opened[0] != stamp:
            opened[1].close()
            opened = None
        if opened is None:
            opened = (stamp, open_movie(path))
        self._movies[str(path)] = opened
        while len(self._movies) > OPEN_MOVIES:
            self._movies.popitem(last=False)[1][1].close()
        return opened[1]

    def survey(self, source: str, facts: Facts) -> Facts:
        """Facts with the least and largest value of every channel, from a first and a middle frame.

        Apart from `probe`, since reading every channel of large frames takes its time.
        """
        names = [c.name for c in facts.channels]
        lows, highs = dict.fromkeys(names, np.inf), dict.fromkeys(names, -np.inf)
        for frame in sorted({facts.first, _middle(facts)}):
            picture = self.read(source, frame, names if facts.kind != "movie" else None)
            for name, plane in picture.planes.items():
                sound = plane[np.isfinite(plane)]
                if sound.size and name in lows:
                    lows[name] = min(lows[name], float(sound.min()))
                    highs[name] = max(highs[name], float(sound.max()))
        channels = [
            c.model_copy(update={"low": lows[c.name], "high": highs[c.name]})
            if np.isfinite(lows[c.name]) else c
            for c in facts.channels
        ]  # fmt: skip
        return facts.model_copy(update={"channels": channels})

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
        return facts.model_copy(update={"alpha_use": use, "limits": limits_of(facts)}).with_data_kind()


def _file(source: str, frame: int) -> Path:
    """The file that holds the frame; `FrameMissing` in a sequence's gap."""
    if not Pattern.is_pattern(source):
        return Path(source)
    path = Pattern.parse(source).path(frame)
    if not path.exists():
        raise FrameMissing(
            f"Frame {frame} of {Path(source).name} is missing.",
            advice="Render it again, or choose how gaps are filled.",
            where=path.name,
        )
    return path


def probe_sequence(pattern: Pattern) -> Facts:
    """Facts of a sequence from its headers: the usual size, and which frames are of another or missing.

    Every frame's header is looked at, on all processors; nothing of it is kept but its size.
    """
    frames = pattern.frames()
    sizes: dict[int, tuple[int, int]] = {}
    broken: dict[int, str] = {}
    total = 0

    def look(frame: int) -> None:
        path = pattern.path(frame)
        try:
            sizes[frame] = stills.size_of(path)
        except NeatVeilError as error:
            broken[frame] = error.message

    for_each(frames, look)
    if not sizes:
        frame, message = next(iter(broken.items()))
        raise FileDamaged(
            f"No frame of {pattern.text} can be read; frame {frame}: {message}", where=pattern.text
        )
    for frame in frames:
        total += pattern.path(frame).stat().st_size
    usual = Counter(sizes.values()).most_common(1)[0][0]
    lead = stills.probe(pattern.path(next(f for f in frames if sizes.get(f) == usual)))
    odd = {n: [*sizes[n]] for n in frames if n in sizes and sizes[n] != usual}
    missing = missing_frames(frames)
    update = {
        "kind": "sequence", "name": pattern.text, "first": frames[0], "last": frames[-1],
        "count": len(frames), "missing": missing, "odd_sizes": odd, "bytes": total,
        "notes": [*lead.notes, *_sequence_notes(frames, missing, odd, broken, usual)],
    }  # fmt: skip
    return lead.model_copy(update=update)


def _sequence_notes(
    frames: list[int], missing: list[int], odd: dict[int, list[int]], broken: dict[int, str],
    usual: tuple[int, int],
) -> list[str]:  # fmt: skip
    notes = []
    if missing:
        notes.append(
            f"{len(missing)} of {frames[-1] - frames[0] + 1} frames are missing: {runs_in_words(missing)}."
        )
    if odd:
        n, size = next(iter(odd.items()))
        notes.append(
            f"{len(odd)} frames are of another size than {usual[0]} x {usual[1]}, "
            f"such as frame {n} with {size[0]} x {size[1]}."
        )
    if broken:
        n, message = min(broken.items())
        notes.append(f"{len(broken)} frames cannot be read, such as frame {n}: {message}")
    return notes


def _middle(facts: Facts) -> int:
    """A frame that is there, about halfway."""
    gone = set(facts.missing)
    half = (facts.first + facts.last) // 2
    return next((f for f in range(half, facts.last + 1) if f not in gone), facts.first)
