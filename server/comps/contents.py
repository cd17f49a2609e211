"""The comps of a project: how many, and the picture of the one that was worked on last."""

from __future__ import annotations

from projects.contents import Contents

from .models import Comp, CompRevision


def comps_in(project_id: int) -> Contents:
    count = Comp.objects.filter(project_id=project_id).count()
    newest = (
        CompRevision.objects.filter(comp__project_id=project_id, comp__deleted=None)
        .order_by("-at", "-pk")
        .first()
    )
    if newest is None:
        return Contents({"comp": count})
    picture = f"/api/comps/{newest.comp_id}/card?revision={newest.revision}"
    return Contents({"comp": count}, newest.at, picture)
