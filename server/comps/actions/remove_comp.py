"""Taking a comp out of its project."""

from __future__ import annotations

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.comp.loading import parse_comp

from comps.inner_comps import comps_named
from comps.models import Comp


def remove_comp(comp: Comp) -> None:
    """`Conflict` where other comps show it, with their names."""
    with transaction.atomic():
        if users := shown_by(comp):
            raise Conflict(
                f"{comp.name} is shown by {', '.join(users[:5])}.",
                advice="Take its layers out there first.", where=comp.name,
            )  # fmt: skip
        project, number = comp.project_id, comp.pk
        comp.delete()
        announce(project, "comps", number)


def shown_by(comp: Comp) -> list[str]:
    """Names of the comps that have it as a layer, or take it in a step or matte."""
    others = Comp.objects.filter(project_id=comp.project_id).exclude(pk=comp.pk)
    return [c.name for c in others if comp.pk in comps_named(parse_comp(c.document, c.name, lenient=True))]
