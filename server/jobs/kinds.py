"""The kinds of long work. An app registers its own when Django starts; the machine looks them up."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .control import Control
    from .models import Job, Piece


def _nothing(job: Job) -> None:
    """Nothing is left to be cleared away."""


@dataclass(frozen=True)
class JobKind:
    """Long work as its app does it; the machine does everything else.

    Attributes
    ----------
    name : stands in `Job.kind`.
    queue : name of the workers' queue.
    piece_words, finish_words : what fails, in the sentence of an unforeseen error.
    run_piece : write the piece's frames that are not there yet. Begun again after a worker was killed.
    finish : everything after the last frame. It may be done twice: the second time must change nothing.
    clear : take away what an ended job leaves half done; called once for each job that fails or is cancelled.
    """

    name: str
    queue: str
    piece_words: str
    finish_words: str
    run_piece: Callable[[Piece, Control], None]
    finish: Callable[[Job, Control], None]
    clear: Callable[[Job], None] = _nothing


_KINDS: dict[str, JobKind] = {}


def register(kind: JobKind) -> None:
    _KINDS[kind.name] = kind


def every() -> list[JobKind]:
    return list(_KINDS.values())


def kind_of(job: Job) -> JobKind:
    return _KINDS[job.kind]
