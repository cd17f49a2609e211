"""Adding a comp to a project."""

from __future__ import annotations

from typing import Any

from config.events import announce
from django.db import transaction
from neatveil.comp import Comp as Document
from projects.models import Project

from comps.cameras import check_cameras
from comps.inner_comps import refuse_circles
from comps.models import Comp
from comps.revisions import keep_revision

from .change_comp import SOURCES, check_elements


def add_comp(project: Project, document: Document, person: Any) -> Comp:
    """A comp with its first revision; `DocumentRefused` where a layer names an element it has not."""
    check_elements(project.pk, document)
    check_cameras(project.pk, document)
    refuse_circles(document, project.pk, None)
    data = document.model_dump(mode="json", exclude=SOURCES)
    with transaction.atomic():
        comp = Comp.objects.create(project=project, name=document.name, document=data)
        keep_revision(comp, data, None, person=person, what="made")
        announce(project.pk, "comps", comp.pk)
    return comp
