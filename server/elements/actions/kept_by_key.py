"""Files that projects bring besides elements: each kept once for all, under the key of what it holds."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from secrets import token_hex

from config.errors import Conflict
from config.events import announce
from django.db import connection, transaction
from neatveil.errors import ValueRefused

from elements.models import ColourConfiguration, FontFile

from .receive_file import Body, safe_name, store_file


@contextmanager
def arriving(folder: Path, name: str, body: Body, *, most: int, too_large: str) -> Iterator[Path]:
    """Where a body lies until its file is known to be good; moved from there, or gone afterwards.

    Raises `ValueRefused` with ``too_large`` as its advice for one of more than ``most`` bytes.
    """
    path = folder / f".{token_hex(8)}{PurePosixPath(name).suffix.lower()}"
    try:
        store_file(path, _Limited(body, name, most, too_large))
        yield path
    finally:
        path.unlink(missing_ok=True)


def named_as(name: str, endings: Sequence[str], what: str, advice: str) -> str:
    """A file's name without folders; `ValueRefused` for one that has none of the endings."""
    name = safe_name(name)
    if PurePosixPath(name).suffix.lower() not in endings:
        raise ValueRefused(f"{name} is no {what}.", advice=advice, where=name)
    return name


@contextmanager
def nobody_else(key: str) -> Iterator[None]:
    """A transaction in which nobody else keeps or removes the file of that key, on whatever machine."""
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(hashtextextended(%s, 0))", [key])
        yield


def remove_kept(
    row: ColourConfiguration | FontFile,
    users: Sequence[str],
    advice: str,
    folder: Path,
    endings: Sequence[str],
    kind: str,
) -> None:
    """Remove it from its project, with its file where no other project has it.

    ``users``: names of those that it is used by; `Conflict` with ``advice`` where there are some. ``kind``:
    as of `announce`.
    """
    if users:
        raise Conflict(f"{row.name} is in use by {', '.join(users[:5])}.", advice=advice, where=row.name)
    with nobody_else(row.key):
        row.delete()
        if not type(row).objects.filter(key=row.key).exists():
            for ending in endings:
                (folder / f"{row.key}{ending}").unlink(missing_ok=True)
        announce(row.project_id, kind, 0)


@dataclass
class _Limited:
    """A body that is refused once it is larger than it may be."""

    body: Body
    name: str
    most: int
    advice: str
    count: int = 0

    def read(self, size: int, /) -> bytes:
        piece = self.body.read(size)
        self.count += len(piece)
        if self.count > self.most:
            raise ValueRefused(
                f"{self.name} is larger than {self.most >> 20} MB.", advice=self.advice, where=self.name
            )
        return piece
