"""Putting a job's pieces into the workers' queue, in the transaction of the row that they serve."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from config.queueing import put_in_queue, put_pieces_in_queue

from jobs.kinds import kind_of
from jobs.models import Job, Piece
from jobs.transitions import S, announce_job, move

RUN_PIECE, FINISH = "jobs.tasks.run_piece", "jobs.tasks.finish_job"


def create_job(kind: str, project_id: int, person: Any, ranges: Sequence[tuple[int, int]]) -> Job:
    """A job with a piece for each range of frames, not queued yet: the row that it serves comes first."""
    job = Job.objects.create(kind=kind, project_id=project_id, person=person)
    add_pieces(job, ranges)
    return job


def add_pieces(job: Job, ranges: Sequence[tuple[int, int]]) -> None:
    Piece.objects.bulk_create(Piece(job=job, first=a, last=b) for a, b in ranges)


def queue_pieces(job: Job) -> None:
    """Queue what is not done; inside a transaction. Where nothing is left the job goes on to finishing."""
    waiting = list(job.pieces.filter(done=False).values_list("pk", flat=True))
    if waiting:
        put_pieces_in_queue(RUN_PIECE, kind_of(job).queue, job.project_id, job.pk, waiting)
    else:
        begin_finishing(job)
    announce_job(job)


def begin_finishing(job: Job) -> None:
    """From work that is all done to what comes after it; inside a transaction. Nothing for an ended job."""
    if move(job, S.FINISHING):
        queue_finish(job)


def queue_finish(job: Job) -> None:
    put_in_queue(FINISH, kind_of(job).queue, job_id=job.pk, project_id=job.project_id)
