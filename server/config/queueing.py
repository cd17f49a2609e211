"""Putting a job into the queue in the transaction of the row that it serves, from jobs too.

Tasks are named, not imported: what queues work need not know the code that does it. Within a worker a task's
own ``defer`` uses a connection of its own: another worker may then run the job before the row's new state can
be seen, and find nothing to do.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, Protocol

from django.conf import settings
from django.db import connection
from neatveil.errors import ValueRefused
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.manager import JobManager

from .logs import current_request

#: Pieces that one order is cut into at most: a row and a job each.
MOST_PIECES = 500


@dataclass(frozen=True)
class Entry:
    """One thing to be done: a task by its name, with what it is given. Higher priorities come first."""

    task: str
    queue: str
    arguments: dict[str, Any]
    priority: int = 0


class Queue(Protocol):
    """What is asked of a queue; `TableQueue` is the one that workers take from."""

    def put(self, entries: Sequence[Entry]) -> None:
        """Queue all of them, in one go."""

    def waiting_of(self, project_id: int) -> int:
        """How many entries of a project wait or are worked at."""

    def serves(self, job_id: int) -> bool:
        """Whether an entry of a job waits, or a worker is at it."""

    def put_first(self, project_id: int, job_id: int) -> None:
        """A job's waiting entries come before the others of its project; inside a transaction.

        The project's entries share out the priorities that they had: other projects keep their turns.
        """


def shared_out(waiting: Sequence[tuple[int, bool]]) -> list[int]:
    """New priorities of a project's waiting entries, in the order given, that of before.

    ``waiting``: the priority of each, and whether it is to come first.
    """
    order = sorted(range(len(waiting)), key=lambda i: not waiting[i][1])
    priorities = sorted((p for p, _ in waiting), reverse=True)
    found = [0] * len(waiting)
    before = None
    for place, (i, priority) in enumerate(zip(order, priorities, strict=True)):
        # of equal ones the older comes first, whichever that is: a new order has none
        before = priority if before is None or place == 0 else min(priority, before - 1)
        found[i] = before
    return found


_AT_WORK = ("todo", "doing")


class TableQueue:
    """The queue's own table, on Django's connection of this thread: seen once the transaction is."""

    def put(self, entries: Sequence[Entry]) -> None:
        manager = JobManager(DjangoConnector(alias="default"))
        rows = []
        for entry in entries:
            deferrer = app.configure_task(entry.task, queue=entry.queue, priority=entry.priority)
            rows.append(deferrer.make_new_job(**entry.arguments))
        manager.batch_defer_jobs(jobs=rows)

    def waiting_of(self, project_id: int) -> int:
        rows = ProcrastinateJob.objects.filter(status__in=_AT_WORK, args__project_id=project_id)
        return int(rows.count())

    def serves(self, job_id: int) -> bool:
        rows = self._jobs().filter(status__in=_AT_WORK, args__job_id=job_id)
        return bool(rows.exists())

    def put_first(self, project_id: int, job_id: int) -> None:
        waiting = list(
            self._jobs()
            .filter(status="todo", args__project_id=project_id)
            .order_by("-priority", "id")
            .values_list("id", "priority", "args")
        )
        new = shared_out([(p, args.get("job_id") == job_id) for _, p, args in waiting])
        with connection.cursor() as cursor:  # the model is there to be read only
            cursor.executemany(
                "UPDATE procrastinate_jobs SET priority = %s WHERE id = %s AND status = 'todo'",
                [(p, row[0]) for p, row in zip(new, waiting, strict=True)],
            )

    @staticmethod
    def _jobs() -> Any:
        return ProcrastinateJob.objects.filter(task_name__startswith="jobs.")


_queue: Queue = TableQueue()


def queue() -> Queue:
    return _queue


@contextmanager
def another_queue(other: Queue) -> Iterator[None]:
    """Queue into another one meanwhile: one in memory, in tests."""
    global _queue
    before, _queue = _queue, other
    try:
        yield
    finally:
        _queue = before


def put_in_queue(task: str, queue_name: str, *, priority: int = 0, **arguments: Any) -> None:
    """Queue a task by its name; it works under the id of the request that queued it."""
    queue().put([Entry(task, queue_name, {**arguments, **_request()}, priority)])


def put_pieces_in_queue(
    task: str, queue_name: str, project_id: int, job_id: int, pieces: Sequence[int]
) -> None:
    """Queue a piece a job, in one go, so that projects take turns.

    A job that stands behind n others of its project has the priority -n: the first pieces of every project
    come before the second ones of any. The task takes ``piece_id``, ``job_id`` and ``project_id``.
    """
    waiting = queue().waiting_of(project_id)
    queue().put(
        [
            Entry(
                task,
                queue_name,
                {"piece_id": piece, "job_id": job_id, "project_id": project_id, **_request()},
                -(waiting + place),
            )
            for place, piece in enumerate(pieces)
        ]
    )


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
            advice="Order the range in parts.", where="frames",
        )  # fmt: skip
