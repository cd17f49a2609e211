"""Putting a job into the queue in the transaction of the row that it serves, from jobs too.

Within a worker a task's own ``defer`` uses a connection of its own: another worker may then run the job
before the row's new state can be seen, and find nothing to do.
"""

from __future__ import annotations

from typing import Any

from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.manager import JobManager


def put_in_queue(task: Any, **arguments: Any) -> None:
    """Queue a task on Django's connection of this thread: seen by workers once the transaction is."""
    deferrer = task.configure()
    deferrer.job_manager = JobManager(DjangoConnector(alias="default"))
    deferrer.defer(**arguments)
