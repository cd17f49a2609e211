"""Bringing a scene in: its files come one by one, then it is read in a limited process."""

from __future__ import annotations

import shutil
from typing import Any

from config.errors import Conflict, NotThere
from config.events import announce
from config.queueing import put_in_queue
from django.db import transaction
from elements.actions.receive_file import Body, store_file
from jobs.models import UNENDED, Job
from neatveil.errors import FileMissing, NeatVeilError, describe
from neatveil.scene.isolated import prepare_scene
from projects.models import Project

from scenes.models import Scene
from scenes.places import checked_name, folder_of, prepared_path


def start_scene(project: Project, person: Any) -> Scene:
    """A scene whose files are still to come."""
    return Scene.objects.create(project=project, person=person, name="scene")


def receive_scene_file(scene: Scene, name: str, body: Body) -> int:
    """One file of it; returns the number of bytes. Raises as `checked_name` and `store_file`."""
    if scene.file:
        raise Conflict("This scene has arrived already.", advice="Import it as another one.")
    return store_file(folder_of(scene) / checked_name(name), body)


def finish_scene(scene: Scene) -> Scene:
    """All files have come: it is read by a job. `FileMissing` where none of them is a scene."""
    folder = folder_of(scene)
    there = [p for p in folder.rglob("*") if p.suffix.lower() in {".glb", ".gltf"}] if folder.is_dir() else []
    if not there:
        raise FileMissing("No scene has arrived.", advice="Import a .glb, or a .gltf with its files.")
    main = sorted(there)[0]
    with transaction.atomic():
        row = Scene.objects.select_for_update().get(pk=scene.pk)
        if row.file:
            return row
        row.file, row.name = main.relative_to(folder).as_posix(), main.stem
        row.save(update_fields=["file", "name"])
        put_in_queue("scenes.tasks.read_scene", "arrivals", scene_id=row.pk)
        announce(row.project_id, "scenes", row.pk)
    return row


def read_arrived(scene_id: int) -> Scene:
    """Read the scene and set its facts, or why it is refused."""
    row = Scene.objects.filter(pk=scene_id).first()
    if row is None:
        raise NotThere("This scene was removed.")
    try:
        facts = prepare_scene(folder_of(row) / row.file, prepared_path(row))
    except NeatVeilError as error:
        row.state, row.problem = Scene.State.REFUSED, describe(error)
    else:
        row.state, row.facts, row.problem = Scene.State.READY, facts.model_dump(), None
    with transaction.atomic():
        row.save(update_fields=["state", "facts", "problem"])
        announce(row.project_id, "scenes", row.pk)
    return row


def remove_scene(row: Scene) -> None:
    """Remove it with its set-ups; `Conflict` while something of it is rendered. Rendered elements stay."""
    if row.renders.filter(job__state__in=UNENDED).exists():
        raise Conflict(f"{row.name} is being rendered.", advice="Cancel that first.", where=row.name)
    folder = folder_of(row)
    with transaction.atomic():
        announce(row.project_id, "scenes", row.pk)
        Job.objects.filter(render__scene=row).delete()  # with the renders that they serve
        row.delete()
    shutil.rmtree(folder, ignore_errors=True)
