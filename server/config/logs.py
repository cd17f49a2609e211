"""Logs as one JSON object a line, each with the request that it belongs to, from the browser to the job.

A request gets an id as it arrives; the answer carries it as X-Request-ID, what is queued meanwhile takes it
along, and a worker works under it: one search finds everything that a click set off.
"""

from __future__ import annotations

import logging
import re
import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

from .environment import Environment

#: Largest number of old log files that are kept beside the newest.
KEPT = 5
_ID = re.compile(r"[A-Za-z0-9-]{8,64}")
_current: ContextVar[str] = ContextVar("request_id", default="")


def current_request() -> str:
    """The id of the request that is being answered or worked for; empty outside."""
    return _current.get()


@contextmanager
def request_scope(request_id: str) -> Iterator[None]:
    """Log under this id, whoever it was given by."""
    token = _current.set(request_id)
    try:
        yield
    finally:
        _current.reset(token)


def new_request_id(sent: str = "") -> str:
    """A new id, or the one that was sent where it can be one."""
    return sent if _ID.fullmatch(sent) else secrets.token_hex(8)


class WithRequest(logging.Filter):
    """Adds the id to every line."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request = _current.get()
        return True


def logging_settings(environment: Environment) -> dict[str, Any]:
    """Django's LOGGING: a file that begins anew when it is full, or the standard error stream."""
    handler: dict[str, Any] = {"formatter": "json", "filters": ["request"]}
    if environment.log is None:
        handler["class"] = "logging.StreamHandler"
    else:
        handler |= {
            "class": "logging.handlers.RotatingFileHandler", "filename": str(environment.log),
            "maxBytes": environment.log_mb << 20, "backupCount": KEPT, "encoding": "utf-8", "delay": True,
        }  # fmt: skip
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {"request": {"()": WithRequest}},
        "formatters": {
            "json": {
                "()": "pythonjsonlogger.json.JsonFormatter",
                "fmt": "%(asctime)s %(levelname)s %(name)s %(message)s %(process)d %(request)s",
                "rename_fields": {"asctime": "time", "levelname": "level", "name": "logger"},
            }
        },
        "handlers": {"lines": handler},
        "root": {"handlers": ["lines"], "level": "WARNING"},
        "loggers": {
            "neatveil.requests": {"level": "INFO"},
            "neatveil.jobs": {"level": "INFO"},
            "procrastinate": {"level": "ERROR"},
            "axes": {"level": "ERROR"},
        },
    }
