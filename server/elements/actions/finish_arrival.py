"""All files of an arrival have come: group them into elements and have each looked at."""

from __future__ import annotations

import shutil
from collections.abc import Iterable
from pathlib import PurePosixPath

from config.errors import Conflict
from config.events import announce
from django.conf import settings
from django.db import transaction
from neatveil.errors import FileMissing
from neatveil.io import Decoder, find_sequences

from elements.models import Arrival, Element

from .look_at import learn
from .queue_look import queue_closer_look, queue_look
from .receive_file import arrived, folder_of

#: Facts of as many elements are found at once, where all are no larger: whoever dropped a still looks on.
FEW, FILES = 4, 100
SMALL = 64 << 20


def finish_arrival(arrival: Arrival, decoder: Decoder) -> list[Element]:
    """One element for each sequence, movie and still; facts of a few small ones at once, else by a job.

    What did not arrive whole is given up. Raises `FileMissing` where no file has come.
    """
    files = arrived(arrival)
    whole = [name for name, (_, done) in files.items() if done]
    if not whole:
        raise FileMissing("No file has arrived.", advice="Import the files again.")
    found = [
        Element(
            project_id=arrival.project_id, name=name, folder=folder,
            file=_relative(arrival, f"{folder}/{name}" if folder else name),
        )
        for folder, name in grouped(whole)
    ]  # fmt: skip
    few = len(found) <= FEW and len(whole) <= FILES
    if not arrival.finished and few and sum(files[name][0] for name in whole) <= SMALL:
        for row in found:
            learn(row, decoder)
    with transaction.atomic():
        locked = Arrival.objects.select_for_update().get(pk=arrival.pk)
        if locked.finished:
            return list(Element.objects.filter(file__startswith=_relative(arrival, "")))
        locked.finished = True
        locked.save(update_fields=["finished"])
        for row in found:
            row.save()
            if row.state == Element.State.ARRIVING:
                queue_look(row.pk)
            elif row.state == Element.State.READY:
                queue_closer_look(row.pk)
        announce(arrival.project_id, "elements", 0)
    for part in folder_of(arrival).rglob(".*.part"):
        part.unlink(missing_ok=True)
    return found


def give_up(arrival: Arrival) -> None:
    """Forget an arrival that was not finished, with what came of it."""
    if arrival.finished:
        raise Conflict("This arrival is finished.", advice="Remove its elements instead.")
    folder = folder_of(arrival)
    arrival.delete()
    shutil.rmtree(folder, ignore_errors=True)


def grouped(names: Iterable[str]) -> list[tuple[str, str]]:
    """Folder and name of every element that these files are: a sequence's name is its pattern."""
    folders: dict[str, list[str]] = {}
    for name in names:
        path = PurePosixPath(name)
        folders.setdefault("" if str(path.parent) == "." else str(path.parent), []).append(path.name)
    found = []
    for folder, inside in sorted(folders.items()):
        sequences, alone = find_sequences(inside)
        found += [(folder, n) for n in sorted([*(p.text for p in sequences), *alone])]
    return found


def _relative(arrival: Arrival, name: str) -> str:
    return f"{folder_of(arrival).relative_to(settings.MEDIA).as_posix()}/{name}"
