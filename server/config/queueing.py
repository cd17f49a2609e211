"""Putting a job into the queue in the transaction of the row that it serves, from jobs too.

Tasks are named, not imported: what queues work need not know the code that does it. Within a worker a task's
own ``defer`` uses a connection of its own: another worker may then run the job before the row's new state can
be seen, and find nothing to do.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.conf import settings
from neatveil.errors import ValueRefused
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.jobs import JobDeferrer
from procrastinate.manager import JobManager

from .logs import current_request

#: Pieces that one order is cut into at most: a row and a job each.
MOST_PIECES = 500


def _deferrer(task: str, queue: str, priority: int = 0) -> JobDeferrer:
    """Queues on Django's connection of this thread: seen by workers once the transaction is."""
    deferrer = app.configure_task(task, queue=queue, priority=priority)
    deferrer.job_manager = JobManager(DjangoConnector(alias="default"))
    return deferrer


def put_in_queue(task: str, queue: str, *, priority: int = 0, **arguments: Any) -> None:
    """Queue a task by its name; it works under the id of the request that queued it."""
    _deferrer(task, queue, priority).defer(**arguments, **_request())


def put_pieces_in_queue(task: str, queue: str, project_id: int, job_id: int, pieces: Sequence[int]) -> None:
    """Queue a piece a job, in one go, so that projects take turns.

    A job that stands behind n others of its project has the priority -n: the first pieces of every project
    come before the second ones of any. The task takes ``piece_id``, ``job_id`` and ``project_id``.
    """
    waiting = ProcrastinateJob.objects.filter(
        status__in=("todo", "doing"), args__project_id=project_id
    ).count()
    deferrer = _deferrer(task, queue)
    rows = [
        deferrer.make_new_job(piece_id=piece, job_id=job_id, project_id=project_id, **_request()).evolve(
            priority=-(waiting + place)
        )
        for place, piece in enumerate(pieces)
    ]
    deferrer.job_manager.batch_defer_jobs(jobs=rows)


def _request() -> dict[str, Any]:
    request_id = current_request()
    return {"request_id": request_id} if request_id else {}


def ranges_of(first: int, last: int, size: int) -> list[tuple[int, int]]:
    """Inclusive ranges of about ``size`` frames; longer ones where that would be more than `MOST_PIECES`."""
    count = last - first + 1
    size = max(size, -(-count // MOST_PIECES))
    return [(at, min(last, at + size - 1)) for at in range(first, last + 1, size)]


def check_range(first: int, last: int) -> None:
    """`ValueRefused` for more frames than one order may have."""
    count = last - first + 1
    if count > settings.LARGEST_RANGE:
        raise ValueRefused(
            f"{count:,} frames were asked; one order has at most {settings.LARGEST_RANGE:,}.",
            advice="Order the range in parts.", where="last",
        )  # fmt: skip
