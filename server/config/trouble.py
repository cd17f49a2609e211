"""What a job makes of an error that nobody foresaw: a problem for its row, and the whole story in the log."""

from __future__ import annotations

import logging

from django.db import InterfaceError, OperationalError
from neatveil.errors import NeatVeilError, WriteFailed

from .logs import current_request

log = logging.getLogger(__name__)


class Unforeseen(NeatVeilError):
    """An error of ours; the log of the worker has its trace."""

    code = "unforeseen"


def as_problem(error: Exception, doing: str) -> NeatVeilError:
    """The error as a person may read it; one of the database, after which the job is done again, is raised.

    ``doing``: what went wrong, such as "Writing frames 1 to 8".
    """
    if isinstance(error, NeatVeilError):
        return error
    if isinstance(error, InterfaceError | OperationalError):
        raise error
    log.error("%s failed", doing, exc_info=error)
    if isinstance(error, OSError) and error.strerror:
        return WriteFailed(
            f"{doing} failed: {error.strerror}.", advice="Check the folder's rights and space, then retry.",
            where=str(error.filename or ""),
        )  # fmt: skip
    return Unforeseen(
        f"{doing} failed for a reason that was not foreseen ({type(error).__name__}).",
        advice="Retry; if it fails again, the log of the worker says more"
        + (f", under {current_request()}." if current_request() else "."),
    )
