"""All files of an arrival have come: group them into elements and have each looked at."""

from __future__ import annotations

from config.events import announce
from django.conf import settings
from django.db import transaction
from neatveil.errors import FileMissing
from neatveil.io import find_sequences

from elements.models import Arrival, Element

from .receive_file import folder_of


def finish_arrival(arrival: Arrival) -> list[Element]:
    """One element for each sequence, movie and still; their facts follow by a job.

    Raises `FileMissing` where no file has come.
    """
    folder = folder_of(arrival)
    names = [p.name for p in folder.iterdir() if p.is_file()] if folder.is_dir() else []
    if not names:
        raise FileMissing("No file has arrived.", advice="Bring the files in again.")
    sequences, alone = find_sequences(names)
    shown = sorted([*(p.text for p in sequences), *alone])
    with transaction.atomic():
        locked = Arrival.objects.select_for_update().get(pk=arrival.pk)
        if locked.finished:
            return list(Element.objects.filter(file__startswith=_relative(arrival, "")))
        locked.finished = True
        locked.save(update_fields=["finished"])
        rows = [
            Element.objects.create(project_id=arrival.project_id, name=n, file=_relative(arrival, n))
            for n in shown
        ]
        for row in rows:
            _look_at(row)
        announce(arrival.project_id, "elements", 0)
    return rows


def _relative(arrival: Arrival, name: str) -> str:
    return f"{folder_of(arrival).relative_to(settings.MEDIA).as_posix()}/{name}"


def _look_at(row: Element) -> None:
    from elements.jobs import look_at_element

    look_at_element.defer(element_id=row.pk)
