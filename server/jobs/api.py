"""Jobs of every kind: how far they are, cancel, pause, retry, hurry, remove from the list."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from config.errors import Problem
from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Schema, Status
from projects.access import row_for

from .actions.steer_job import cancel_job, forget_job, hurry_job, pause_job, retry_job
from .models import Job

router = Router(tags=["jobs"])


class JobOut(Schema):
    """``written`` frames of ``count`` are there, ``checked`` of them were gone through afterwards."""

    id: int
    kind: Literal["delivery", "render", "transcode", "matte"]
    state: Literal["queued", "running", "finishing", "paused", "done", "failed", "cancelled"]
    cancelling: bool = Field(description="It was told to stop, and finishes the frame in hand.")
    written: int
    checked: int
    count: int
    newest: int | None = Field(description="The frame that was written last.")
    seconds_left: float | None
    problem: Problem | None
    person: str | None
    ordered: datetime
    ended: datetime | None


def job_out(job: Job, *, checks: bool = False) -> JobOut:
    """``checks``: whether every frame is gone through again after it is written."""
    pieces = list(job.pieces.all())
    written = sum(p.last - p.first + 1 if p.done else p.written for p in pieces)
    count = sum(p.last - p.first + 1 for p in pieces)
    return JobOut(
        id=job.pk, kind=job.kind, state=job.state,  # type: ignore[arg-type]
        cancelling=job.cancel and job.active, written=written, checked=job.checked, count=count,
        newest=job.newest, seconds_left=_seconds_left(job, written, count, checks=checks),
        problem=job.problem, person=job.person.get_username() if job.person else None,
        ordered=job.ordered, ended=job.ended,
    )  # fmt: skip


def _seconds_left(job: Job, written: int, count: int, *, checks: bool) -> float | None:
    """From the pace so far; checking counts as much as writing until its own pace is known."""
    if job.started is None or not job.active:
        return None
    done, total = written + job.checked, 2 * count if checks else count
    if done < (2 if checks else 1):
        return None
    spent = (timezone.now() - job.started).total_seconds()
    return spent / done * max(0, total - done)


def _row(request: HttpRequest, job_id: int) -> Job:
    return row_for(request.user, Job, job_id, "job", "person")


@router.get("jobs/{job_id}", response={200: JobOut, 404: Problem})
def read_job(request: HttpRequest, job_id: int) -> JobOut:
    return job_out(_row(request, job_id))


@router.post("jobs/{job_id}/cancel", response={200: JobOut, 404: Problem, 409: Problem})
def cancel(request: HttpRequest, job_id: int) -> JobOut:
    """Stop as soon as the frame in hand is whole."""
    return job_out(cancel_job(_row(request, job_id)))


@router.post("jobs/{job_id}/retry", response={200: JobOut, 404: Problem, 409: Problem})
def retry(request: HttpRequest, job_id: int) -> JobOut:
    """Go on with one that failed, was cancelled or is paused; whole frames are not done again."""
    return job_out(retry_job(_row(request, job_id)))


@router.post("jobs/{job_id}/pause", response={200: JobOut, 404: Problem, 409: Problem})
def pause(request: HttpRequest, job_id: int) -> JobOut:
    """Stop as soon as the frame in hand is whole, until it is retried; a movie begins anew then."""
    return job_out(pause_job(_row(request, job_id)))


@router.post("jobs/{job_id}/hurry", response={200: JobOut, 404: Problem, 409: Problem})
def hurry(request: HttpRequest, job_id: int) -> JobOut:
    """Let it come before everything else of its project that waits."""
    return job_out(hurry_job(_row(request, job_id)))


@router.delete("jobs/{job_id}", response={204: None, 404: Problem, 409: Problem})
def forget(request: HttpRequest, job_id: int) -> Status[None]:
    """Remove it from the list; what it made stays."""
    forget_job(_row(request, job_id))
    return Status(204, None)
