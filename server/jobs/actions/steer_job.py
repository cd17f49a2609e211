"""Cancelling, pausing, retrying, hurrying and forgetting jobs of every kind."""

from __future__ import annotations

from collections.abc import Sequence

from config.errors import Conflict
from config.queueing import queue
from django.db import transaction

from jobs.kinds import kind_of
from jobs.models import UNENDED, Job
from jobs.transitions import S, announce_job, begin_again, move

from .queue_job import add_pieces, queue_pieces


def cancel_job(job: Job) -> Job:
    """Stop as soon as the frame in hand is whole; those that are whole stay."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if row.state not in UNENDED:
            raise Conflict(f"This {row.kind} is {row.state}; there is nothing to cancel.")
        Job.objects.filter(pk=row.pk).update(cancel=True)
        if row.state in {S.QUEUED, S.PAUSED}:
            move(row, S.CANCELLED)
        announce_job(row)
    if row.state == S.PAUSED:
        kind_of(row).clear(row)
    row.refresh_from_db()
    return row


def pause_job(job: Job) -> Job:
    """Stop as soon as the frame in hand is whole, until `retry_job`; others take its turn."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if not row.active or row.cancel:
            state = "being cancelled" if row.active else row.state
            raise Conflict(f"This {row.kind} is {state}; there is nothing to pause.")
        move(row, S.PAUSED)
    row.refresh_from_db()
    return row


def hurry_job(job: Job) -> Job:
    """Before everything else of its project that waits; what is in hand is done first, and other projects
    keep their turns."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if not row.active:
            raise Conflict(f"This {row.kind} is {row.state}; it does not wait.")
        queue().put_first(row.project_id, row.pk)
        announce_job(row)
    return row


def retry_job(job: Job) -> Job:
    """Go on with one that failed, was cancelled or is paused: what is whole is not done again."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if row.state not in {S.FAILED, S.CANCELLED, S.PAUSED}:
            raise Conflict(
                f"This {row.kind} is {row.state}; only one that failed, was cancelled or is paused can go on."
            )
        # new rows: a worker that is still on an old one finds it gone, and stops
        ranges = list(row.pieces.filter(done=False).values_list("first", "last"))
        row.pieces.filter(done=False).delete()
        _restart(row, ranges)
    return row


def restart_job(job: Job, ranges: Sequence[tuple[int, int]]) -> Job:
    """Do all of it again, by new ranges of frames; `Conflict` while it is at work."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if row.active:
            raise Conflict(f"This {row.kind} is still at work.", advice="Cancel it first.")
        row.pieces.all().delete()
        _restart(row, ranges)
    return row


def _restart(row: Job, ranges: Sequence[tuple[int, int]]) -> None:
    begin_again(row)
    add_pieces(row, ranges)
    queue_pieces(row)


def forget_job(job: Job) -> None:
    """Remove it from the list, with the row that it serves; what it made stays."""
    with transaction.atomic():
        row = Job.objects.select_for_update().get(pk=job.pk)
        if row.active:
            raise Conflict(f"This {row.kind} is still at work.", advice="Cancel it first.")
        announce_job(row)
        row.delete()
