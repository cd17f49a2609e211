"""What a person can take back and do again: their own changes of a comp, whoever changed it meanwhile."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, TypeAlias

from elements.models import ReadingChange
from elements.resolve import numbers_used
from neatveil.comp.loading import parse_comp

from comps.models import Comp, CompRevision
from comps.revisions import REACH

Change: TypeAlias = CompRevision | ReadingChange


@dataclass(frozen=True)
class Reach:
    """The newest change that can be taken back, and the last one taken back that can be done again."""

    back: Change | None
    again: Change | None

    @property
    def words(self) -> tuple[str | None, str | None]:
        """Both in words."""
        return _words(self.back), _words(self.again)


def _words(change: Change | None) -> str | None:
    if isinstance(change, ReadingChange):
        return f"reading of {change.element.name}"
    return None if change is None else change.what or "change"


def reach_of(comp: Comp, person: Any) -> Reach:
    """Undo and redo of one person, past a reload and in every window alike.

    Changes of how the comp's elements are read take part, in the order in which they were made.
    """
    own = _own_reach(comp, person)
    readings = ReadingChange.objects.filter(
        person=person, element__project_id=comp.project_id, at__gt=comp.created
    )
    if not readings.exists():  # the document is parsed only where it matters: every change asks for this
        return own
    readings = readings.filter(element_id__in=_elements_of(comp)).select_related("element")
    last = readings.filter(undone=None).order_by("-pk").first()
    undone = readings.exclude(undone=None).order_by("-undone").first()
    back = own.back
    if last is not None and (back is None or last.at > back.at):
        back = last
    again = own.again
    if undone is not None and undone.undone is not None and not _changed_since(comp, person, undone.undone):
        # what was taken back last is done again first
        own_again = own.again if isinstance(own.again, CompRevision) else None
        when = own_again and _taken_back(comp, own_again.revision)
        if when is None or undone.undone > when.at:
            again = undone
    return Reach(back, again)


def _taken_back(comp: Comp, revision: int) -> CompRevision | None:
    """The newest revision that took that one back."""
    return comp.revisions.filter(takes_back=revision).order_by("-revision").first()


def _changed_since(comp: Comp, person: Any, when: datetime) -> bool:
    """Whether the person has changed the comp anew since: then there is nothing to be done again."""
    fresh = comp.revisions.filter(person=person, takes_back=None, does_again=None, at__gt=when)
    return fresh.exists()


def _elements_of(comp: Comp) -> list[int]:
    return numbers_used(parse_comp(comp.document, comp.name, lenient=True))


def _own_reach(comp: Comp, person: Any) -> Reach:
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
