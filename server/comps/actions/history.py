"""What a person can take back and do again: their own changes of a comp, whoever changed it meanwhile."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from comps.models import Comp, CompRevision

#: So many of the newest revisions are looked at.
REACH = 2000


@dataclass(frozen=True)
class Reach:
    """The newest change that can be taken back, and the last one taken back that can be done again."""

    back: CompRevision | None
    again: CompRevision | None


def reach_of(comp: Comp, person: Any) -> Reach:
    """Undo and redo of one person, past a reload and in every window alike."""
    rows = comp.revisions.filter(person=person, revision__gt=max(1, comp.revision - REACH))
    done: list[int] = []
    undone: list[int] = []
    for revision, back, again in rows.order_by("revision").values_list(
        "revision", "takes_back", "does_again"
    ):
        if back is not None:
            if back in done:
                done.remove(back)
                undone.append(back)
        elif again is not None:
            if again in undone:
                undone.remove(again)
                done.append(again)
        else:
            done.append(revision)
            undone.clear()
    return Reach(_row(comp, done), _row(comp, undone))


def _row(comp: Comp, stack: list[int]) -> CompRevision | None:
    return comp.revisions.get(revision=stack[-1]) if stack else None
