"""What a project holds, asked without knowing it: apps that come later register themselves at the start."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime


@dataclass(frozen=True)
class Contents:
    """``counts``: of each kind, by its name for one. ``touched``: the last change. ``picture``: address."""

    counts: dict[str, int] = field(default_factory=dict)
    touched: datetime | None = None
    picture: str = ""


_PARTS: list[Callable[[int], Contents]] = []


def register(part: Callable[[int], Contents]) -> None:
    """``part``: the contents of one kind, of the project of that number."""
    _PARTS.append(part)


def contents_of(project_id: int) -> Contents:
    """All kinds together: the newest change, and the first picture that there is."""
    parts = [part(project_id) for part in _PARTS]
    return Contents(
        counts={name: count for part in parts for name, count in part.counts.items()},
        touched=max((p.touched for p in parts if p.touched), default=None),
        picture=next((p.picture for p in parts if p.picture), ""),
    )
