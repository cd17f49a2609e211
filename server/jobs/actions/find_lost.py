"""Jobs that are at work by their row and have nothing in the queue any more: put back.

Nothing here should ever leave one behind. A queue that was emptied by hand does, or a database that was
brought back from a copy.
"""

from __future__ import annotations

import logging
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from jobs.models import ACTIVE, Job
from jobs.transitions import S

from .queue_job import queue_finish, queue_pieces

log = logging.getLogger(__name__)


def queue_lost_jobs() -> int:
    """How many were put back."""
    served = set(
        ProcrastinateJob.objects.filter(status__in=("todo", "doing"), task_name__startswith="jobs.")
        .exclude(args__job_id=None)
        .values_list("args__job_id", flat=True)
    )
    before = timezone.now() - timedelta(seconds=settings.STALLED_SECONDS)
    lost = Job.objects.filter(state__in=ACTIVE, ordered__lt=before).exclude(pk__in=served)
    for job in lost:
        log.warning("%s: nothing is queued for it; it is queued again", job)
        with transaction.atomic():
            if job.state == S.FINISHING:
                queue_finish(job)
            else:
                queue_pieces(job)
    return len(lost)
