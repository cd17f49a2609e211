"""The elements of a project, in numbers."""

from __future__ import annotations

from django.db.models import Count, Max
from projects.contents import Contents

from .models import Element


def elements_in(project_id: int) -> Contents:
    found = Element.objects.filter(project_id=project_id).aggregate(count=Count("pk"), last=Max("created"))
    return Contents({"element": found["count"]}, found["last"])
