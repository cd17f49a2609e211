"""Files that are named by what they hold: given by their place, or lying in a folder under their keys."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from pathlib import Path

#: What a key looks like.
KEY_PATTERN = r"own-[0-9a-f]{16}"


def key_of(held: bytes) -> str:
    """The key of a file that holds this.

    >>> key_of(b"")
    'own-e3b0c44298fc1c14'
    """
    return "own-" + hashlib.sha256(held).hexdigest()[:16]


class KeyedFiles:
    """Files of one kind that a document may name.

    Parameters
    ----------
    endings : of their names in the folder.
    """

    def __init__(self, endings: Sequence[str]) -> None:
        self._endings = endings
        self._given: dict[str, Path] = {}
        self._folder: Callable[[], Path] | None = None

    def look_in(self, folder: Callable[[], Path] | None) -> None:
        """Where files lie under their keys: asked each time, since it may change."""
        self._folder = folder

    def give(self, key: str, path: Path) -> None:
        """Use a file where it lies, from now on."""
        self._given[key] = path

    @property
    def given(self) -> list[str]:
        """The keys of those that were given by their place."""
        return sorted(self._given)

    def path_of(self, key: str) -> Path | None:
        """Where the file of a key lies; None where it is not here."""
        places = [self._given[key]] if key in self._given else []
        if not places and self._folder is not None:
            places = [self._folder() / f"{key}{ending}" for ending in self._endings]
        return next((place for place in places if place.is_file()), None)
