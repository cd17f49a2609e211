"""What a job's own code tells the machine while it works, and asks of it."""

from __future__ import annotations

import time

from .models import ACTIVE, Job, Piece
from .transitions import announce_job

#: Seconds between two looks into the database at whether the job is cancelled: some work asks at every strip.
LOOK_AFTER = 0.5
#: Seconds between two reports: small frames are written faster than anybody reads.
TELL_AFTER = 0.2


class Control:
    """Progress of one piece, or of finishing where ``piece`` is None, and whether to stop."""

    def __init__(self, job: Job, piece: Piece | None = None) -> None:
        self.job, self.piece = job, piece
        self._looked, self._told, self._cancelled = 0.0, 0.0, False

    def frame_written(self, frame: int) -> None:
        """A frame of the piece is whole.

        Where no worker has come so far before, what killed earlier ones counts no more.
        """
        piece = self.piece
        assert piece is not None
        if self._quiet(last=frame == piece.last):
            return
        written = frame - piece.first + 1
        Piece.objects.filter(pk=piece.pk, written__lt=written).update(written=written, attempts=0)
        Job.objects.filter(pk=self.job.pk).update(newest=frame)
        announce_job(self.job)

    def frames_checked(self, count: int) -> None:
        """Finishing has gone through so many frames."""
        if self._quiet(last=False):
            return
        Job.objects.filter(pk=self.job.pk, checked__lt=count).update(checked=count, finishes=0)
        announce_job(self.job)

    def cancelled(self) -> bool:
        """Whether to stop: a person asked for it, the job has ended, or was begun again with other pieces."""
        now = time.monotonic()
        if not self._cancelled and now - self._looked > LOOK_AFTER:
            self._looked = now
            going = Job.objects.filter(pk=self.job.pk, cancel=False, state__in=ACTIVE)
            if self.piece is not None:
                going = going.filter(pieces=self.piece.pk)
            self._cancelled = not going.exists()
        return self._cancelled

    def _quiet(self, *, last: bool) -> bool:
        now = time.monotonic()
        if not last and now - self._told < TELL_AFTER:
            return True
        self._told = now
        return False
