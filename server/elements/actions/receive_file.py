"""Taking in the files of an arrival: bytes go to disk as they come, and go on where they broke off."""

from __future__ import annotations

import errno
import hashlib
import threading
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path, PurePosixPath, PureWindowsPath
from typing import Any, BinaryIO, Protocol

from config.errors import Conflict
from config.parsing import one_line
from django.conf import settings
from neatveil.errors import DiskFull, ValueRefused, WriteFailed
from neatveil.io.formats import format_of

from elements.models import Arrival

PIECE = 1 << 20
#: Folders a dropped file may lie in.
DEEPEST = 12
#: Files whose running hash is kept, so that a file sent in pieces is not read again at its end.
HASHES = 64


class Body(Protocol):
    """Bytes to be read, such as a request."""

    def read(self, size: int, /) -> bytes: ...


class Broken(Conflict):
    """What arrived is not what was sent."""

    code = "broken-in-transit"


def folder_of(arrival: Arrival) -> Path:
    folder: Path = settings.MEDIA / "elements" / str(arrival.pk)
    return folder


def safe_name(text: str) -> str:
    """The last part of whatever path was sent; `ValueRefused` where no usable name is left."""
    name = one_line(PurePosixPath(PureWindowsPath(text).as_posix()).name)
    if not name or name in {".", ".."} or len(name.encode("utf-8", "replace")) > 240:
        raise ValueRefused(
            f"{text[:80]!r} cannot be a file's name.",
            advice="Give it a name of at most 240 bytes without slashes.",
            where=text[:80],
        )
    return name


def safe_place(text: str) -> PurePosixPath:
    """A name with the folders it was dropped in; of a path that leads elsewhere only the name."""
    path = PureWindowsPath(text)
    parts = path.parts
    if path.drive or path.root or len(parts) > DEEPEST or ".." in parts:
        return PurePosixPath(safe_name(text))
    return PurePosixPath(*(safe_name(p) for p in parts or [text]))


def partial_path(path: Path) -> Path:
    """The hidden name under which a file lies until it is whole."""
    name = path.name.encode()
    # too long with the ending: told apart from others that begin alike
    short = path.name if len(name) <= 200 else f"{name[:160].decode(errors='ignore')}~{_short(name)}"
    return path.with_name(f".{short}.part")


def _short(name: bytes) -> str:
    return hashlib.sha256(name).hexdigest()[:32]


def receive_piece(
    arrival: Arrival, name: str, body: Body, *, offset: int = 0, last: bool = True, sha256: str = ""
) -> int:
    """Append a piece of a file; returns how many bytes of it are there now.

    ``offset``: where the piece begins; what is there beyond it is given up. ``last``: the file is whole
    after it, and is then checked against ``sha256`` where that was sent.

    Raises `FormatUnknown` before anything is read, `Conflict` where the pieces do not join or the file is
    there already, `Broken`, `ValueRefused` for one that is too large, `DiskFull`, `WriteFailed`.
    """
    place = safe_place(name)
    format_of(place.name)
    path = folder_of(arrival).joinpath(*place.parts)
    if path.exists():
        raise Conflict(
            f"{name} has arrived already.", advice="Two files claim this name; rename one.", where=name
        )
    return store_piece(path, body, offset=offset, last=last, sha256=sha256)


def store_file(path: Path, body: Body) -> int:
    """Write a whole body to a file; returns the number of bytes. Nothing half-written is left."""
    try:
        return store_piece(path, body)
    except BaseException:
        partial_path(path).unlink(missing_ok=True)
        raise


def store_piece(path: Path, body: Body, *, offset: int = 0, last: bool = True, sha256: str = "") -> int:
    """As `receive_piece`, for any path."""
    part = partial_path(path)
    with _disk_errors(path.name):
        path.parent.mkdir(parents=True, exist_ok=True)
        there = part.stat().st_size if part.exists() else 0
        if offset > there:
            raise Conflict(
                f"{path.name}: a piece from byte {offset} came, but {there} are there.",
                advice="Go on from there.", where=path.name,
            )  # fmt: skip
        digest = _running.take(part, offset)
        with part.open("r+b" if part.exists() else "wb") as file:
            file.truncate(offset)
            file.seek(offset)
            total = _append(path.name, file, body, digest, offset)
    if not last:
        _running.keep(part, total, digest)
        return total
    with _disk_errors(path.name):
        if sha256 and (digest or _of_file(part)).hexdigest() != sha256.lower():
            part.unlink(missing_ok=True)
            raise Broken(
                f"{path.name} was damaged on its way here.", advice="Import it again.", where=path.name
            )
        part.replace(path)
    return total


def _append(name: str, file: BinaryIO, body: Body, digest: Any, offset: int) -> int:
    total = offset
    while piece := body.read(PIECE):
        total += len(piece)
        if total > settings.LARGEST_UPLOAD:
            raise ValueRefused(f"{name} is larger than {settings.LARGEST_UPLOAD >> 30} GB.", where=name)
        file.write(piece)
        if digest is not None:
            digest.update(piece)
    return total


def arrived(arrival: Arrival) -> dict[str, tuple[int, bool]]:
    """Every file of an arrival that is there: its bytes, and whether it is whole."""
    folder = folder_of(arrival)
    found = {}
    for path in folder.rglob("*") if folder.is_dir() else []:
        if not path.is_file():
            continue
        inside = path.relative_to(folder)
        if path.name.startswith(".") and path.name.endswith(".part"):
            found[inside.with_name(path.name[1:-5]).as_posix()] = (path.stat().st_size, False)
        else:
            found[inside.as_posix()] = (path.stat().st_size, True)
    return found


class _Running:
    """Hashes of files that are still coming, by hidden name and bytes so far."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, tuple[int, Any]] = OrderedDict()
        self._lock = threading.Lock()

    def take(self, part: Path, offset: int) -> Any:
        """The hash of the first ``offset`` bytes, or None where it is not known."""
        if offset == 0:
            return hashlib.sha256()
        with self._lock:
            count, digest = self._kept.pop(str(part), (0, None))
        return digest if count == offset else None

    def keep(self, part: Path, count: int, digest: Any) -> None:
        if digest is None:
            return
        with self._lock:
            self._kept[str(part)] = (count, digest)
            while len(self._kept) > HASHES:
                self._kept.popitem(last=False)


_running = _Running()


def _of_file(path: Path) -> Any:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256")


@contextmanager
def _disk_errors(name: str) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        if error.errno in {errno.ENOSPC, errno.EDQUOT, errno.EFBIG}:
            raise DiskFull(
                f"The disk is full: {name} could not be stored.",
                advice="Free some space and import it again.", where=name,
            ) from error  # fmt: skip
        raise WriteFailed(f"{name} could not be stored: {error.strerror}.", where=name) from error
