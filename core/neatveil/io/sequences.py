"""Numbered frame sequences: patterns, their files, gaps."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from ..errors import FileMissing, ValueRefused
from ..frame_list import runs_of
from .formats import BY_EXTENSION

_NUMBERED = re.compile(r"^(?P<stem>.*?)(?P<number>\d+)(?P<ending>\.[A-Za-z0-9]+)$", re.S)
_HASHES = re.compile(r"#+")
_PRINTF = re.compile(r"%0?(\d*)d")


@dataclass(frozen=True, slots=True)
class Pattern:
    """A sequence's file name: ``folder / (head + number padded to digits + tail)``.

    >>> Pattern.parse("shots/kite.####.png").path(7).as_posix()
    'shots/kite.0007.png'
    """

    folder: Path
    head: str
    digits: int
    tail: str

    @classmethod
    @lru_cache(maxsize=1024)
    def parse(cls, text: str | Path) -> Pattern:
        """From ``name.####.ext`` or ``name.%04d.ext``; `ValueRefused` where no number is marked."""
        path = Path(text)
        for expression in (_HASHES, _PRINTF):
            matches = list(expression.finditer(path.name))
            if matches:
                m = matches[-1]
                digits = len(m[0]) if expression is _HASHES else int(m[1] or 1)
                return cls(path.parent, path.name[: m.start()], digits, path.name[m.end() :])
        raise ValueRefused(
            f"{path.name} marks no frame number.",
            advice="Write the number as #### or %04d, as in shot.####.exr.",
            where=str(text),
        )

    @classmethod
    def is_pattern(cls, text: str | Path) -> bool:
        name = Path(text).name
        return bool(_HASHES.search(name) or _PRINTF.search(name)) and not Path(text).exists()

    def path(self, frame: int) -> Path:
        number = f"{abs(frame):0{self.digits}d}"
        return self.folder / f"{self.head}{'-' if frame < 0 else ''}{number}{self.tail}"

    @property
    def text(self) -> str:
        return f"{self.head}{'#' * self.digits}{self.tail}"

    def frames(self) -> list[int]:
        """The frame numbers whose files exist, in order; `FileMissing` where there are none."""
        expression = re.compile(re.escape(self.head) + r"(\d+)" + re.escape(self.tail), re.S)
        try:
            names = [p.name for p in self.folder.iterdir()]
        except OSError:
            names = []
        found = sorted(
            int(m[1]) for n in names if (m := expression.fullmatch(n)) and self.path(int(m[1])).name == n
        )
        if not found:
            raise FileMissing(
                f"No file matches {self.text}.",
                advice="Check the folder, the padding and the ending.",
                where=str(self.folder / self.text),
            )
        return found


def missing_frames(frames: Sequence[int]) -> list[int]:
    """Numbers left out between the first and the last."""
    there = set(frames)
    return [f for f in range(frames[0], frames[-1] + 1) if f not in there]


def runs_in_words(frames: Sequence[int], most: int = 4) -> str:
    """Frame numbers as ranges, the first few of them.

    >>> runs_in_words([3, 7, 8, 9, 20])
    '3, 7 to 9, 20'
    """
    runs = runs_of(frames)
    words = [str(a) if a == b else f"{a} to {b}" for a, b in runs[:most]]
    return ", ".join(words) + (" ..." if len(runs) > most else "")


def find_sequences(names: Iterable[str]) -> tuple[dict[Pattern, list[int]], list[str]]:
    """Group file names into sequences of two or more numbered stills, and the rest.

    A number at the very end of the name counts. Names of one pattern must agree in padding, or be
    unpadded throughout.

    Parameters
    ----------
    names : of files, without folders.

    Returns
    -------
    Frame numbers by pattern, and the names that belong to none.

    Examples
    --------
    >>> find_sequences(["a.1.png", "a.2.png", "b.png"])[1]
    ['b.png']
    """
    groups: dict[tuple[str, str], list[tuple[int, int, str]]] = {}
    alone: list[str] = []
    for name in names:
        m = _NUMBERED.match(name)
        ending = m["ending"][1:].lower() if m else ""
        if m and ending in BY_EXTENSION and BY_EXTENSION[ending].kind == "still":
            row = (int(m["number"]), len(m["number"]), name)
            groups.setdefault((m["stem"], m["ending"]), []).append(row)
        else:
            alone.append(name)
    found: dict[Pattern, list[int]] = {}
    for (stem, ending), rows in groups.items():
        digits = min(length for _, length, _ in rows)
        pattern = Pattern(Path(), stem, digits, ending)
        fits = {n: name for n, _, name in rows if pattern.path(n).name == name}
        alone += [name for n, _, name in rows if fits.get(n) != name]
        if len(fits) > 1:
            found[pattern] = sorted(fits)
        else:
            alone += fits.values()
    return found, sorted(alone)
