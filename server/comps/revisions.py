"""Every accepted state of a comp, kept as its difference from the one before, with whole ones in between.

Old ones are thinned by one rule (`thin`): the last `RECENT_DAYS` days and the last `REACH` states are kept
whole, and before them the last state of each day and every named one.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone
from neatveil.comp.upgrades import upgrade_comp

from .differences import difference, patched
from .models import Comp, CompRevision

#: After so many differences a state is kept whole: no more are put together to read one.
SNAPSHOT_EVERY = 50
#: Undo reaches over so many states.
REACH = 2000
RECENT_DAYS = 30


def keep_revision(comp: Comp, data: dict[str, Any], before: dict[str, Any] | None, **values: Any) -> None:
    """Keep ``data`` as the comp's newest revision.

    ``before``: the state of the revision before, in this version; None where there is none. ``values``: the
    other columns of `CompRevision`.
    """
    row = CompRevision(comp=comp, revision=comp.revision, version=data["neatveil"], document=data, **values)
    # a difference leads from what is kept: where that is of an older version, this one is kept whole
    behind = comp.revisions.filter(revision=comp.revision - 1, version=row.version)
    if before is not None and comp.revision % SNAPSHOT_EVERY != 1 and behind.exists():
        patch = difference(before, data)
        if len(json.dumps(patch)) < len(json.dumps(data)) // 2:
            row.document, row.patch = None, patch
    row.save()


def document_at(comp: Comp, revision: int) -> dict[str, Any]:
    """The document of a revision, in the newest version."""
    newest: dict[str, Any] = upgrade_comp(kept_at(comp, revision))
    return newest


def kept_at(comp: Comp, revision: int) -> dict[str, Any]:
    """The document of a revision, as it was written. `CompRevision.DoesNotExist` where it was thinned out."""
    rows = comp.revisions.filter(revision__lte=revision).order_by("revision")
    whole = rows.filter(document__isnull=False).values_list("revision", flat=True).last()
    chain = [] if whole is None else list(rows.filter(revision__gte=whole))
    if not chain or chain[-1].revision != revision:
        raise CompRevision.DoesNotExist(f"revision {revision} of comp {comp.pk}")
    document: Any = chain[0].document
    for row in chain[1:]:
        # the database sees to it that what is not whole is a difference
        document = patched(document, row.patch or [])
    return dict(document)


def thin(comp: Comp, now: datetime | None = None) -> int:
    """Take out the old states that the rule does not keep; how many. One that follows a gap is kept whole."""
    with transaction.atomic():
        comp = Comp.objects.select_for_update().get(pk=comp.pk)
        old = _old(comp, now or timezone.now())
        going = old - _kept_of(comp, old)
        if not going:
            return 0
        behind = comp.revisions.filter(revision__in=[r + 1 for r in going], document__isnull=True)
        for row in behind.exclude(revision__in=going):
            row.document, row.patch = kept_at(comp, row.revision), None
            row.save(update_fields=["document", "patch"])
        # what only led to later ones of a chain has become whole: all in between are gone with it
        comp.revisions.filter(revision__in=going).delete()
        return len(going)


def _old(comp: Comp, now: datetime) -> set[int]:
    # what the last of the reach changed is seen from the state before it
    within = comp.revision - REACH
    rows = comp.revisions.filter(at__lt=now - timedelta(days=RECENT_DAYS), revision__lt=within)
    return set(rows.values_list("revision", flat=True))


def _kept_of(comp: Comp, old: Iterable[int]) -> set[int]:
    """Of old states: the named ones, and the last of each day."""
    last: dict[Any, int] = {}
    named = set()
    rows = comp.revisions.filter(revision__in=old).order_by("revision").values_list("revision", "at", "name")
    for revision, at, name in rows:
        last[at.date()] = revision
        if name:
            named.add(revision)
    return named | set(last.values())
