"""Jobs that are at work by their row and have nothing in the queue any more: put back.

Nothing here should ever leave one behind. A queue that was emptied by hand does, or a database that was
brought back from a copy.
"""

from __future__ import annotations

import logging
from datetime import timedelta

from config.queueing import queue
from django.conf import settings
from django.db import transaction
from django.utils import timezone

from jobs.models import ACTIVE, Job
from jobs.transitions import S

from .queue_job import queue_finish, queue_pieces

log = logging.getLogger(__name__)


def queue_lost_jobs() -> int:
    """How many were put back."""
    before = timezone.now() - timedelta(seconds=settings.STALLED_SECONDS)
    count = 0
    for number in Job.objects.filter(state__in=ACTIVE, ordered__lt=before).values_list("pk", flat=True):
        with transaction.atomic():
            # whoever queues work holds the row until it can be seen: only then is the queue looked at
            job = Job.objects.select_for_update().filter(pk=number, state__in=ACTIVE).first()
            if job is None or queue().serves(number):
                continue
            log.warning("%s: nothing is queued for it; it is queued again", job)
            if job.state == S.FINISHING:
                queue_finish(job)
            else:
                queue_pieces(job)
            count += 1
    return count
