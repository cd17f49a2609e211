"""A render is complete: its manifest, and its sequences as elements of the project."""

from __future__ import annotations

import shutil
from pathlib import Path

from config.engine import decoder
from config.events import announce
from django.conf import settings
from django.db import transaction
from elements.actions.look_at import look_at
from elements.models import Element
from jobs.control import Control
from jobs.models import Job
from neatveil.io.whole import remove_parts_in
from neatveil.scene.output import Written, written_of
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.rendering import write_manifest
from neatveil.scene.setup import RenderSetup, parse_setup

from scenes.models import Render, RenderPart
from scenes.places import opened, render_folder

from .keep_camera import keep_camera


def finish(job: Job, control: Control) -> None:
    """Elements of the first rendering stay the same rows when it is rendered again, so that comps follow.

    What a changed set-up no longer writes keeps the element it had, with its old files. Done twice it finds
    the elements of the first time by the names of their sequences.
    """
    render = Render.objects.select_related("scene").get(job=job)
    scene, given = opened(render.scene), parse_setup(render.document)
    setup, folder = given.effective(), render_folder(render)
    # the farthest first: so they stand in the list, and so they are laid into a comp
    rows = [w for s in reversed(render_layers_of(scene, setup)) for w in written_of(scene, setup, s)]
    for inside in {folder, *(w.path(folder, setup.first).parent for w in rows)}:
        remove_parts_in(inside)
    keep_camera(render, write_manifest(scene, given, folder))
    kept = []
    for place, row in enumerate(rows):
        kept.append(_part(render, setup, row, place, folder).pk)
    if len(kept) == render.parts.count():
        # the one before stays a while: pictures of it may be on their way
        for old in range(1, render.version - 1):
            shutil.rmtree(render_folder(render, old), ignore_errors=True)


def _part(render: Render, setup: RenderSetup, row: Written, place: int, folder: Path) -> RenderPart:
    file = row.path(folder, setup.first) if setup.first == setup.last else folder / row.pattern
    relative = file.relative_to(settings.MEDIA).as_posix()
    reading = row.reading.model_dump(mode="json")
    known = {"file": relative, "reading": reading, "encoding": row.encoding, "rate": str(setup.rate)}
    name = f"{render.name} {row.name}".strip()
    with transaction.atomic():
        part = render.parts.select_related("element").filter(name=row.name).first()
        if part is None:
            element = Element.objects.create(
                project_id=render.project_id, name=name, reading_set=True, **known
            )
            part = RenderPart(render=render, element=element, name=row.name)
        else:
            Element.objects.filter(pk=part.element_id).update(**known)
        part.beauty, part.place = "beauty" in row.passes, place
        part.save()
    looked = look_at(part.element_id, decoder())
    if row.kind == "data" and looked.facts:
        channels = [{**c, "data": True} for c in looked.facts["channels"]]
        looked.facts = {**looked.facts, "channels": channels}
        looked.kinds = {c["name"]: "data" for c in channels if c["name"] != "A"}
        looked.save(update_fields=["facts", "kinds"])
        announce(render.project_id, "elements", looked.pk)
    return part
