"""Telling whether an element's files are still those that were looked at."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from neatveil.errors import FileMissing
from neatveil.io import Pattern

Stamp = dict[str, Any]


def stamp_of(place: Path) -> Stamp | None:
    """Newest change, bytes and number of the files of a still, a movie or a sequence; None without any."""
    try:
        paths = [place]
        if Pattern.is_pattern(place):
            pattern = Pattern.parse(place)
            paths = [pattern.path(f) for f in pattern.frames()]
        stats = [p.stat() for p in paths]
    except (OSError, FileMissing):
        return None
    return {
        "changed": max(s.st_mtime_ns for s in stats),
        "bytes": sum(s.st_size for s in stats),
        "count": len(stats),
    }


def grew(before: Stamp, now: Stamp) -> bool:
    """Whether frames were added rather than others put in their place."""
    return bool(now["count"] > before["count"] and now["bytes"] > before["bytes"])
