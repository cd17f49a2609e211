"""A worker's part: running one piece, and finishing once every piece is done.

Both may be begun again after a worker was killed, at any line. All that a kill can leave behind is work that
is still queued: every change of a row stands in one transaction with the queueing of what follows.
"""

from __future__ import annotations

from config.trouble import as_problem
from django.db import transaction
from django.db.models import F
from neatveil.errors import Cancelled, NeatVeilError, describe

from jobs.control import Control
from jobs.kinds import kind_of
from jobs.models import Job, Piece
from jobs.transitions import announce_job, move

from .queue_job import begin_finishing

S = Job.State
#: How often work is begun that ends its worker each time without coming a frame further.
MOST_ATTEMPTS = 3


class WorkerKilled(NeatVeilError):
    """Work that ended its worker again and again, such as by using all memory."""

    code = "worker-killed"


def run_piece(piece_id: int) -> None:
    """Do one piece; the last one of its job puts the finishing into the queue."""
    piece = Piece.objects.select_related("job").filter(pk=piece_id).first()
    if piece is None or piece.done or piece.problem:
        return
    job, kind = piece.job, kind_of(piece.job)
    if job.state not in {S.QUEUED, S.RUNNING}:
        return
    if job.cancel:
        _end_cancelled(job)
        return
    if piece.attempts >= MOST_ATTEMPTS:
        _set_aside(piece)
        return
    Piece.objects.filter(pk=piece.pk).update(attempts=F("attempts") + 1)
    move(job, S.RUNNING)
    try:
        kind.run_piece(piece, Control(job, piece))
    except Cancelled:
        # also where the job was begun again meanwhile, with pieces of its own
        if Piece.objects.filter(pk=piece.pk).exists():
            _end_cancelled(job)
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        if Piece.objects.filter(pk=piece.pk).exists():
            _fail(job, as_problem(error, f"{kind.piece_words} {piece.first} to {piece.last}"))
    else:
        _settle(piece, done=True, written=piece.last - piece.first + 1)


def finish_job(job_id: int) -> None:
    """Do what comes after the last frame, and end the job."""
    with transaction.atomic():
        job = Job.objects.select_for_update().filter(pk=job_id).first()
        if job is None or job.state != S.FINISHING:
            return
        job.finishes += 1
        job.save(update_fields=["finishes"])
    kind = kind_of(job)
    if job.cancel:
        _end_cancelled(job)
        return
    if job.finishes > MOST_ATTEMPTS:
        _fail(job, _killed(kind.finish_words))
        return
    try:
        kind.finish(job, Control(job))
    except Cancelled:
        _end_cancelled(job)
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        _fail(job, as_problem(error, kind.finish_words))
    else:
        move(job, S.DONE)


def _settle(piece: Piece, **values: object) -> None:
    """The piece is done, or set aside. The last one leads to finishing, or to the first problem there was."""
    with transaction.atomic():
        job = Job.objects.select_for_update().get(pk=piece.job_id)
        Piece.objects.filter(pk=piece.pk).update(**values)
        left = job.pieces.filter(done=False, problem__isnull=True).exists()
        if not left:
            aside = job.pieces.filter(problem__isnull=False).first()
            if aside is None:
                begin_finishing(job)
            else:
                move(job, S.FAILED, problem=aside.problem)
        announce_job(job)
    if not left and aside is not None:
        kind_of(job).clear(job)


def _set_aside(piece: Piece) -> None:
    words = f"{kind_of(piece.job).piece_words} {piece.first} to {piece.last}"
    _settle(piece, problem=describe(_killed(words)))


def _killed(doing: str) -> WorkerKilled:
    return WorkerKilled(
        f"{doing} ended its worker {MOST_ATTEMPTS} times.",
        advice="It may need more memory than a worker has: use smaller pictures or fewer layers, then retry.",
    )


def _fail(job: Job, error: NeatVeilError) -> None:
    if move(job, S.FAILED, problem=describe(error)):
        kind_of(job).clear(job)


def _end_cancelled(job: Job) -> None:
    """As a person asked; work that stopped because the job had ended otherwise changes nothing."""
    if Job.objects.filter(pk=job.pk, cancel=True).exists() and move(job, S.CANCELLED):
        kind_of(job).clear(job)
