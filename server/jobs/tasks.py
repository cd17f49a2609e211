"""The two tasks of the workers' queue for long work, and the care of what was lost."""

from __future__ import annotations

from config.tasks import queued_task
from procrastinate.contrib.django import app

from .actions import find_lost, run_job


@queued_task(queue="jobs")
def run_piece(piece_id: int, job_id: int = 0, project_id: int = 0) -> None:
    """Do one piece of a job."""
    run_job.run_piece(piece_id)


@queued_task(queue="jobs")
def finish_job(job_id: int, project_id: int = 0) -> None:
    """Do what comes after the last frame of a job."""
    run_job.finish_job(job_id)


@app.periodic(cron="*/1 * * * *")
@app.task(queue="care", queueing_lock="lost-jobs", pass_context=False)
def care_for_lost_jobs(timestamp: int) -> None:
    """Queue again what has nothing in the queue."""
    find_lost.queue_lost_jobs()
