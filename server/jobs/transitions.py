"""The one state machine of long work. No other code writes `Job.state`.

``queued -> running -> finishing -> done``; from each of the first three also ``failed``, ``cancelled`` and
``paused``, and from the last of these ``cancelled``. Otherwise only `begin_again` leads out of an ended or a
paused state. A late worker therefore never overwrites how a job ended.
"""

from __future__ import annotations

import logging
from typing import Any

from config.events import announce
from django.db import transaction
from django.utils import timezone

from .models import ACTIVE, UNENDED, Job

log = logging.getLogger("neatveil.jobs")

S = Job.State
#: The states from which each may be reached.
BEFORE: dict[str, tuple[str, ...]] = {
    S.RUNNING: (S.QUEUED,),
    S.FINISHING: (S.QUEUED, S.RUNNING),
    S.DONE: (S.FINISHING,),
    S.FAILED: ACTIVE,
    S.PAUSED: ACTIVE,
    S.CANCELLED: UNENDED,
}
ENDED = (S.DONE, S.FAILED, S.CANCELLED)


def move(job: Job, to: str, **values: Any) -> bool:
    """Bring a job into a state if that may follow its own; whether it did. ``job`` is not refreshed."""
    if to in ENDED:
        values["ended"] = timezone.now()
    if to == S.RUNNING:
        values["started"] = timezone.now()
    with transaction.atomic():
        rows = Job.objects.filter(pk=job.pk, state__in=BEFORE[to])
        moved = rows.update(state=to, **values) == 1
        if moved:
            announce_job(job)
    if moved:
        log.info("job %d, %s: %s", job.pk, job.kind, to, extra={"project": job.project_id})
    return moved


def begin_again(job: Job) -> None:
    """From an ended or paused state back to the queue; inside a transaction that holds the row."""
    job.state, job.cancel, job.problem, job.newest = S.QUEUED, False, None, None
    job.checked = job.finishes = 0
    job.started = job.ended = None
    job.save()


def announce_job(job: Job) -> None:
    announce(job.project_id, "jobs", job.pk)
