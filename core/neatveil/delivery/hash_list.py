"""Hash lists by the ASC MHL standard, written and read by the standard's own library [ASCMHL].

A folder has one history, in its subfolder ``ascmhl``: every delivery into the folder adds a generation, and
the chain file says in which order. Files are hashed by XXH64 and C4.
"""

from __future__ import annotations

import fcntl
import hashlib
import platform
import tempfile
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path

import click
from ascmhl import utils
from ascmhl.generator import MHLGenerationCreationSession
from ascmhl.hasher import hash_file, multiple_format_hash_file
from ascmhl.hashlist import MHLAuthor, MHLCreatorInfo, MHLProcess, MHLProcessInfo, MHLTool
from ascmhl.history import MHLHistory
from pydantic import BaseModel, ConfigDict

from .. import __version__
from ..errors import FileMissing, WriteFailed

#: Subfolder of a history, as the standard names it.
FOLDER = "ascmhl"
FORMATS = ["c4", "xxh64"]


class ListCheck(BaseModel):
    """What was found when a folder's hash list was verified."""

    model_config = ConfigDict(extra="forbid")

    files: int
    generations: int
    changed: list[str] = []
    missing: list[str] = []

    @property
    def good(self) -> bool:
        return not (self.changed or self.missing)


def add_to_hash_list(folder: Path, files: Sequence[Path], author: str = "") -> Path:
    """Add files to a folder's history, as a generation of its own; where it knows all of them, none.

    Parameters
    ----------
    folder : that holds the files, or folders with them.
    files : those to be recorded; the ones that are recorded already are verified, and not recorded again.
    author : who ordered them; empty for nobody.

    Returns
    -------
    The newest manifest.

    Raises
    ------
    WriteFailed
        A file is not what an earlier generation says, or the history cannot be written.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as name:
    ...     file = Path(name, "dusk.0001.png")
    ...     _ = file.write_bytes(b"pixels")
    ...     manifest = add_to_hash_list(Path(name), [file])
    ...     manifest.suffix, verify_hash_list(Path(name)).good
    ('.mhl', True)
    """
    with _alone(folder):
        history = _history(folder)
        session = MHLGenerationCreationSession(history)
        for file in files:
            hashes = multiple_format_hash_file(str(file), FORMATS)
            known = history.find_original_hash_entry_for_path(_name_in(folder, file))
            if known is None:
                status = file.stat()
                changed = datetime.fromtimestamp(status.st_mtime)
                # one format after another: the library's way for several at once fails as it is written
                for name, found in hashes.items():
                    session.append_file_hash(str(file), status.st_size, changed, name, found)
            elif known.hash_string != hashes.get(known.hash_format):
                raise WriteFailed(
                    f"{file.name} is not the file that the folder's hash list knows.",
                    advice="Deliver into another folder.", where=str(file),
                )  # fmt: skip
        if session.new_hash_lists:
            session.commit(_creator(author), _process())
        return max((folder / FOLDER).glob("*.mhl"))


def verify_hash_list(folder: Path) -> ListCheck:
    """Hash every file of a folder's history again.

    Parameters
    ----------
    folder : with a subfolder ``ascmhl``.

    Returns
    -------
    How many files and generations there are, and which files are changed or missing.

    Raises
    ------
    FileMissing
        The folder has no history, or it cannot be read.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as name:
    ...     file = Path(name, "dusk.0001.png")
    ...     _ = file.write_bytes(b"pixels")
    ...     _ = add_to_hash_list(Path(name), [file])
    ...     _ = file.write_bytes(b"others")
    ...     verify_hash_list(Path(name)).changed
    ['dusk.0001.png']
    """
    history = _history(folder)
    if not history.hash_lists:
        raise FileMissing(
            f"{folder.name} has no ASC MHL hash list.",
            advice=f"It would lie in its subfolder {FOLDER}.", where=str(folder),
        )  # fmt: skip
    paths = sorted(Path(p) for p in history.set_of_file_paths())
    check = ListCheck(files=len(paths), generations=len(history.hash_lists))
    for path in paths:
        name = _name_in(folder, path)
        first = history.find_original_hash_entry_for_path(name)
        if not path.is_file():
            check.missing.append(name)
        elif first is not None and hash_file(str(path), first.hash_format) != first.hash_string:
            check.changed.append(name)
    return check


def _name_in(folder: Path, file: Path) -> str:
    """As a history names a file of its folder."""
    return file.absolute().relative_to(folder.absolute()).as_posix()


def _history(folder: Path) -> MHLHistory:
    try:
        return MHLHistory.load_from_path(str(folder.absolute()))
    except (click.ClickException, OSError, ValueError, AttributeError) as error:
        raise FileMissing(
            f"The hash list of {folder.name} cannot be read: {error}", where=str(folder / FOLDER)
        ) from error


def _creator(author: str) -> MHLCreatorInfo:
    info = MHLCreatorInfo()
    info.tool = MHLTool("Neat Veil", __version__)
    info.creation_date = utils.datetime_now_isostring()
    info.host_name = platform.node()
    if author:
        info.authors.append(MHLAuthor(author))
    return info


def _process() -> MHLProcessInfo:
    info = MHLProcessInfo()
    info.process = MHLProcess("in-place")
    return info


@contextmanager
def _alone(folder: Path) -> Iterator[None]:
    """One at a time, over all processes of the machine: a generation follows the one before it."""
    name = hashlib.sha256(str(folder.absolute()).encode()).hexdigest()[:16]
    with Path(tempfile.gettempdir(), f"neatveil-{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield
