"""Library folders: registered without copying, watched, and never written to."""

from __future__ import annotations

import logging
import os
from collections.abc import Iterator
from pathlib import Path, PurePosixPath
from typing import Any, NamedTuple

from config.errors import Conflict
from config.events import announce
from django.conf import settings
from django.db import InterfaceError, OperationalError, transaction
from django.utils import timezone
from neatveil.errors import FileMissing, NeatVeilError, ValueRefused
from neatveil.io import Pattern
from neatveil.io.formats import BY_EXTENSION
from projects.models import Project

from elements.models import Element, Library
from elements.stamps import Stamp, grew, stamp_of

from .finish_arrival import grouped
from .queue_look import queue_look

log = logging.getLogger(__name__)

#: Most files of one library that are looked at.
MOST = 200_000
#: Entries that are passed over, of which this many are said.
SHOWN = 20
#: Characters of an element's name and folder.
LONGEST_NAME, LONGEST_FOLDER = 300, 500


def allowed(text: str) -> Path:
    """The real folder of a path; `ValueRefused` outside the roots, `FileMissing` where none is."""
    path = Path(os.path.realpath(text))
    roots = [Path(os.path.realpath(r)) for r in settings.LIBRARY_ROOTS]
    if not any(path == root or root in path.parents for root in roots):
        raise ValueRefused(
            f"{text} is not below a folder that may be registered.",
            advice=f"These may: {', '.join(map(str, roots))}; who runs the server can add others.",
            where="path",
        )
    if not path.is_dir():
        raise FileMissing(f"{text} is not a folder that is there.", where="path")
    return path


def folders_in(text: str) -> list[Path]:
    """What can be chosen: the roots, or the folders inside one."""
    if not text:
        return [r for r in settings.LIBRARY_ROOTS if r.is_dir()]
    try:
        inside = [p for p in allowed(text).iterdir() if p.is_dir() and not p.name.startswith(".")]
    except OSError as error:
        raise FileMissing(f"{text} cannot be read: {error.strerror}.", where="path") from error
    return sorted(inside, key=lambda p: p.name.lower())


def register(project: Project, person: Any, text: str) -> Library:
    """Register a folder and look through it; `Conflict` where one that holds or lies in it is known."""
    path = allowed(text)
    row = Library(project=project, person=person, name=path.name[:200], path=str(path))
    seen = _walked(row)  # before the project is locked: it may take long
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        for other in project.libraries.all():
            theirs = Path(other.path)
            if theirs == path or theirs in path.parents or path in theirs.parents:
                raise Conflict(
                    f"{path.name} and the library {other.name} would claim the same files.",
                    advice="Take that one out first.", where="path",
                )  # fmt: skip
        row.save()
        _take_in(row, seen)  # what goes wrong in it leaves no half-registered library
    row.refresh_from_db()
    return row


def unregister(row: Library) -> None:
    """Forget a library and its elements; its files stay. `Conflict` while a comp uses one of them."""
    from .remove_element import check_unused

    for element in row.elements.all():
        check_unused(element)
    with transaction.atomic():
        announce(row.project_id, "elements", 0)
        row.delete()


def watch_all() -> None:
    """Look through every library; what goes wrong in one keeps none of the others waiting."""
    for row in Library.objects.all():
        try:
            look_through(row)
        except (InterfaceError, OperationalError):
            raise
        except Exception as error:
            log.error("library %s could not be looked through", row.pk, exc_info=error)
            sentence = f"The folder could not be looked through ({type(error).__name__}); it is tried again."
            if row.passed_over != [sentence]:
                Library.objects.filter(pk=row.pk).update(passed_over=[sentence])
                announce(row.project_id, "elements", 0)


def look_through(row: Library) -> None:
    """What has changed since, as `_take_in` tells; a folder that is gone is said."""
    if not Path(row.path).is_dir():
        if row.there:
            Library.objects.filter(pk=row.pk).update(there=False)
            announce(row.project_id, "elements", 0)
        return
    _take_in(row, _walked(row))


class Walked(NamedTuple):
    """What lies in a library: names of elements below its root with their folder and name; what was passed
    over, in words."""

    found: dict[str, tuple[str, str]]
    passed: list[str]


def _walked(row: Library) -> Walked:
    passed: list[str] = []
    found = {
        (f"{folder}/{name}" if folder else name): (folder, name)
        for folder, name in grouped(_files(Path(row.path), passed))
        if _fits(row, folder, name, passed)
    }
    return Walked(found, passed)


def _take_in(row: Library, seen: Walked) -> None:
    """New elements for what is new; growth is followed, replacement is asked about, a loss is said."""
    if (shown := seen.passed[:SHOWN]) != row.passed_over:
        Library.objects.filter(pk=row.pk).update(passed_over=shown)
        announce(row.project_id, "elements", 0)
    known = {e.file: e for e in row.elements.select_related("library")}
    with transaction.atomic():
        for file, (folder, name) in seen.found.items():
            if file in known:
                continue
            element = _grew_into(known, file) or Element.objects.create(
                project_id=row.project_id, library=row, name=name, file=file,
                folder=f"{row.name}/{folder}".strip("/"),
            )  # fmt: skip
            queue_look(element.pk)
            announce(row.project_id, "elements", element.pk)
        Library.objects.filter(pk=row.pk).update(there=True, seen=timezone.now())
    if not row.there:
        announce(row.project_id, "elements", 0)
    for element in known.values():
        follow(element)


def _grew_into(known: dict[str, Element], pattern: str) -> Element | None:
    """The element of a lone numbered still that became a sequence: it is the sequence's from now on."""
    if not Pattern.is_pattern(pattern):
        return None
    parsed = Pattern.parse(pattern)
    for file, element in known.items():
        name = PurePosixPath(file).name
        number = name.removeprefix(parsed.head).removesuffix(parsed.tail)
        if str(PurePosixPath(file).parent) != str(parsed.folder) or not number.isdecimal():
            continue
        if parsed.path(int(number)).name == name:
            element.file, element.name = pattern, parsed.text
            element.save(update_fields=["file", "name"])
            return element
    return None


def follow(element: Element) -> None:
    """See whether the element's files changed since they were looked at."""
    now = stamp_of(element.place)
    before: Stamp | None = element.stamp
    if before is None or now is None or now == before:
        return
    if grew(before, now):
        # marked at once, so that the next look does not ask again
        Element.objects.filter(pk=element.pk).update(stamp=now)
        queue_look(element.pk)
    elif element.replaced != now:
        Element.objects.filter(pk=element.pk).update(replaced=now)
        announce(element.project_id, "elements", element.pk)


def accept(element: Element) -> Element:
    """Use what is under the element's name now, everywhere."""
    with transaction.atomic():
        row = Element.objects.select_for_update().get(pk=element.pk)
        if row.replaced is None:
            raise Conflict(f"{row.name} was not replaced.", where=row.name)
        row.replaced = None
        row.stamp = stamp_of(row.place)
        row.save(update_fields=["replaced", "stamp"])
        queue_look(row.pk)
        announce(row.project_id, "elements", row.pk)
    return row


def _fits(row: Library, folder: str, name: str, passed: list[str]) -> bool:
    """Whether an element can have that name and folder."""
    fits = len(name) <= LONGEST_NAME and len(f"{row.name}/{folder}") <= LONGEST_FOLDER
    if not fits:
        passed.append(f"{name[:60]}...: its name or folder is too long.")
    return fits


def _shown(name: str) -> str:
    """A name from the disk as text, whatever bytes it is made of."""
    return os.fsencode(name).decode("utf-8", "replace")[:120]


def _files(root: Path, passed: list[str]) -> Iterator[str]:
    """Relative names of the pictures below a folder; what cannot be read is added to ``passed``."""
    waiting, count = [root], 0
    while waiting:
        folder = waiting.pop()
        try:
            entries = sorted(os.scandir(folder), key=lambda e: e.name)
        except OSError as error:
            passed.append(f"{_shown(folder.name)}: {error.strerror}.")
            continue
        for entry in entries:
            if entry.name.startswith("."):
                continue
            try:
                is_folder = entry.is_dir(follow_symlinks=False)
                wanted = is_folder or (_ending(entry) in BY_EXTENSION and _may_be_read(entry))
                entry.name.encode("utf-8")
            except UnicodeEncodeError:
                passed.append(f"{_shown(entry.name)}: its name is not valid text (UTF-8).")
                continue
            except OSError as error:
                passed.append(f"{_shown(entry.name)}: {error.strerror}.")
                continue
            if is_folder:
                waiting.append(Path(entry.path))
            elif wanted:
                count += 1
                if count > MOST:
                    passed.append(f"Only the first {MOST:,} files are looked at.")
                    return
                yield Path(entry.path).relative_to(root).as_posix()


def _ending(entry: os.DirEntry[str]) -> str:
    return entry.name.rpartition(".")[2].lower()


def _may_be_read(entry: os.DirEntry[str]) -> bool:
    """A file, and not a link that leads out of what may be seen."""
    if not entry.is_symlink():
        return entry.is_file()
    try:
        allowed(str(Path(os.path.realpath(entry.path)).parent))
    except NeatVeilError:
        return False
    return entry.is_file()
