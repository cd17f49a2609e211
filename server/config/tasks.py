"""The queue: what every job shares, and the care of jobs whose worker died."""

from __future__ import annotations

import logging
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.conf import settings
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from .logs import request_scope

log = logging.getLogger(__name__)

#: The database being away is no reason to lose a job.
RETRY = RetryStrategy(max_attempts=3, exponential_wait=2)


Work = Callable[..., None]


def queued_task(**options: Any) -> Callable[[Work], Work]:
    """A task that works under the id of the request that queued it; ``options``: procrastinate's."""

    def decorate(work: Work) -> Work:
        @wraps(work)
        def run(*, request_id: str = "", **arguments: Any) -> None:
            with request_scope(request_id):
                work(**arguments)

        app.task(**{"retry": RETRY, "name": f"{work.__module__}.{work.__name__}", **options})(run)
        return run

    return decorate


@app.periodic(cron="* * * * * */5")
@app.task(queue="care", queueing_lock="care", pass_context=False)
async def care_for_stalled_jobs(timestamp: int) -> None:
    """Jobs of a worker that was killed go back into the queue."""
    stalled = await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=settings.STALLED_SECONDS)
    for job in stalled:
        log.warning("job %s (%s): its worker is gone; it is done again", job.id, job.task_name)
        await app.job_manager.retry_job(job)
