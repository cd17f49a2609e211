"""Pictures that a set-up names, from files: the environment, and the plate."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from ..alpha import Reading, read
from ..comp.rate import parse_rate
from ..io import Decoder, Facts
from .model import Floats
from .setup import RenderSetup


def light_of(decoder: Decoder, source: str, frame: int, facts: Facts, encoding: str) -> Floats:
    """``(H, W, 3)`` light of a frame, its alpha left out of account."""
    stored = decoder.read(source, frame, None)
    picture = read(stored, Reading(alpha="none"), encoding)
    return np.ascontiguousarray(picture.rgba()[..., :3])


class LocalPictures:
    """Pictures by file name, seen from a folder; stills are read once.

    A sequence is read at the frame that is rendered; a movie's first frame is the set-up's first.
    """

    def __init__(self, decoder: Decoder, folder: Path, setup: RenderSetup) -> None:
        self._decoder, self._folder, self._setup = decoder, folder, setup
        self._facts: dict[str, Facts] = {}
        self._stills: dict[str, Floats] = {}

    def __call__(self, name: str, frame: int) -> Floats:
        source = str(self._folder / name)
        if name not in self._facts:
            self._facts[name] = self._decoder.probe(source)
        facts = self._facts[name]
        if facts.kind == "still":
            if name not in self._stills:
                self._stills[name] = light_of(self._decoder, source, 0, facts, facts.encoding)
            return self._stills[name]
        number = frame
        if facts.kind == "movie":
            rate = parse_rate(facts.rate) if facts.rate else self._setup.rate
            number = int((frame - self._setup.first) / self._setup.rate * rate)
        return light_of(self._decoder, source, number, facts, facts.encoding)
