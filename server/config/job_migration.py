"""For migrations alone: the job of a row that kept its own state before there were jobs."""

from __future__ import annotations

from typing import Any

#: What was at work when the server was brought to this version: its queue entries name tasks that are gone.
INTERRUPTED = {
    "code": "interrupted", "message": "The work was interrupted when the server was updated.",
    "advice": "Go on with it: what is whole is not done again.", "where": "",
}  # fmt: skip
ENDED = {"done", "failed", "cancelled"}


def job_of(apps: Any, row: Any, kind: str, pieces: list[tuple[int, int, int, bool]], checked: int) -> Any:
    """A job with the row's state, times and pieces (first, last, written, done)."""
    ended = row.state in ENDED
    job = apps.get_model("jobs", "Job").objects.create(
        project_id=row.project_id, person_id=row.person_id, kind=kind,
        state=row.state if ended else "failed", cancel=row.cancel,
        newest=getattr(row, "newest", None), checked=checked,
        problem=row.problem if ended else INTERRUPTED, started=row.started, ended=row.ended,
    )  # fmt: skip
    type(job).objects.filter(pk=job.pk).update(ordered=row.ordered)
    apps.get_model("jobs", "Piece").objects.bulk_create(
        apps.get_model("jobs", "Piece")(job=job, first=a, last=b, written=written, done=done)
        for a, b, written, done in pieces
    )
    return job
