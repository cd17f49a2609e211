"""Deleting a comp, and bringing it back."""

from __future__ import annotations

from datetime import timedelta

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from django.utils import timezone
from neatveil.comp.loading import parse_comp

from comps.inner_comps import comps_named
from comps.models import Comp

#: How long a deleted comp can be brought back.
KEPT = timedelta(days=30)


def remove_comp(comp: Comp) -> None:
    """`Conflict` where other comps show it, with their names. It can be brought back while it is `KEPT`."""
    with transaction.atomic():
        if users := shown_by(comp):
            raise Conflict(
                f"{comp.name} is shown by {', '.join(users[:5])}.",
                advice="Take its layers out there first.", where=comp.name,
            )  # fmt: skip
        comp.deleted = timezone.now()
        comp.save(update_fields=["deleted"])
        announce(comp.project_id, "comps", comp.pk)


def bring_back(comp: Comp) -> None:
    """With all its revisions; its layers show what is still there."""
    with transaction.atomic():
        comp.deleted = None
        comp.save(update_fields=["deleted"])
        announce(comp.project_id, "comps", comp.pk)


def forget_deleted() -> None:
    """Delete for good what has been deleted for too long."""
    Comp.everything.filter(deleted__lt=timezone.now() - KEPT).delete()


def shown_by(comp: Comp) -> list[str]:
    """Names of the comps that have it as a layer, or take it in a step or matte."""
    others = Comp.objects.filter(project_id=comp.project_id).exclude(pk=comp.pk)
    return [c.name for c in others if comp.pk in comps_named(parse_comp(c.document, c.name, lenient=True))]
