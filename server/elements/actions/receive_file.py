"""Taking in one file of an arrival: the bytes go to disk as they come."""

from __future__ import annotations

import errno
from pathlib import Path, PurePosixPath, PureWindowsPath
from typing import BinaryIO

from django.conf import settings
from neatveil.errors import DiskFull, ValueRefused, WriteFailed
from neatveil.io.formats import format_of

from elements.models import Arrival

PIECE = 1 << 20


def folder_of(arrival: Arrival) -> Path:
    folder: Path = settings.MEDIA / "elements" / str(arrival.pk)
    return folder


def safe_name(text: str) -> str:
    """The last part of whatever path was sent; `ValueRefused` where no usable name is left."""
    name = PurePosixPath(PureWindowsPath(text).as_posix()).name
    if not name or name in {".", ".."} or "\0" in name or len(name.encode()) > 240:
        raise ValueRefused(
            f"{text[:80]!r} cannot be a file's name.",
            advice="Give it a name of at most 240 bytes without slashes.",
            where=text[:80],
        )
    return name


def receive_file(arrival: Arrival, name: str, body: BinaryIO) -> int:
    """Write the body under the name; returns the number of bytes.

    Raises `FormatUnknown` before anything is read, and as `store_file`.
    """
    name = safe_name(name)
    format_of(name)
    return store_file(folder_of(arrival) / name, body)


def store_file(path: Path, body: BinaryIO) -> int:
    """Write a body to a file; returns the number of bytes. Nothing half-written is left.

    Raises `ValueRefused` for one that is too large, `DiskFull`, `WriteFailed`.
    """
    name = path.name
    part = path.with_name(f".{path.name[:200]}.part")
    total = 0
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with part.open("wb") as file:
            while piece := body.read(PIECE):
                total += len(piece)
                if total > settings.LARGEST_UPLOAD:
                    raise ValueRefused(
                        f"{name} is larger than {settings.LARGEST_UPLOAD >> 30} GB.", where=name
                    )
                file.write(piece)
        part.replace(path)
    except OSError as error:
        if error.errno in {errno.ENOSPC, errno.EDQUOT, errno.EFBIG}:
            raise DiskFull(
                f"The disk is full: {name} could not be stored.",
                advice="Free some space and bring it in again.", where=name,
            ) from error  # fmt: skip
        raise WriteFailed(f"{name} could not be stored: {error.strerror}.", where=name) from error
    finally:
        part.unlink(missing_ok=True)
    return total
