"""Files that appear whole or not at all: made under a hidden name, renamed when they are finished."""

from __future__ import annotations

import os
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from ..errors import WriteFailed


def part_name(path: Path) -> Path:
    """The hidden name a file bears while it is being written."""
    return path.with_name(f".{path.stem}.{os.getpid()}-{threading.get_ident()}.part{path.suffix}")


@contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """The name to write to; when the block ends well the file has its final one.

    Raises `WriteFailed` where the folder cannot be made; errors of writing name the final file.
    Nothing is left under the final or the hidden name when the block does not end well.
    """
    make_folder(path.parent)
    part = part_name(path)
    try:
        yield part
        part.replace(path)
    except WriteFailed as error:
        error.message = error.message.replace(part.name, path.name)
        error.where = path.name
        raise
    except OSError as error:
        raise WriteFailed(
            f"{path.name} could not be written: {error.strerror or error}.",
            advice="Check the folder's rights and space, then retry.", where=path.name,
        ) from error  # fmt: skip
    finally:
        # a folder that takes no files lets none be removed either
        with suppress(OSError):
            part.unlink(missing_ok=True)


def remove_parts_in(folder: Path, head: str = "", ending: str = "") -> None:
    """Remove what killed writers left behind in a folder; only while nothing writes there.

    ``head``, ``ending``: of the final names, where others in the folder are still being written.
    """
    for part in folder.glob(f".*.part{ending or '*'}"):
        if part.name.startswith(f".{head}"):
            part.unlink(missing_ok=True)


def make_folder(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WriteFailed(
            f"The folder {folder.name} cannot be made: {error.strerror}.",
            advice="Choose another place.",
            where=str(folder),
        ) from error
