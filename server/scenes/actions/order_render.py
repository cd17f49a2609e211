"""Ordering a render: checked before anything is traced, then cut into pieces for the workers."""

from __future__ import annotations

from typing import Any

from config.queueing import check_range, ranges_of
from django.db import transaction
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.actions.steer_job import restart_job
from neatveil.errors import ValueRefused
from neatveil.scene.rendering import check_render
from neatveil.scene.setup import RenderSetup, parse_setup

from scenes.models import Render, Scene
from scenes.pictures import element_pictures
from scenes.places import opened

from .render_piece import KIND

#: Frames of one piece: little is done twice when a worker dies, and all workers have some.
PIECE_FRAMES = 4


def order_render(scene: Scene, person: Any, name: str, setup: RenderSetup) -> Render:
    """A render with its job, all in one transaction.

    Raises what is wrong with scene and set-up, and `ValueRefused` for a name that files cannot have.
    """
    setup = _named(setup, name)
    check_range(setup.first, setup.last)
    check_render(opened(scene), setup, element_pictures(scene.project_id, setup))
    with transaction.atomic():
        job = create_job(KIND, scene.project_id, person, _ranges(setup))
        render = Render.objects.create(
            project_id=scene.project_id, scene=scene, job=job, name=name.strip(),
            document=setup.model_dump(mode="json"),
        )  # fmt: skip
        queue_pieces(job)
    return render


def render_again(render: Render, setup: RenderSetup | None) -> Render:
    """Render it again, perhaps by another set-up; its elements, and every comp that uses them, follow.

    Raises `Conflict` while it is rendered, and what is wrong with the set-up.
    """
    used = parse_setup(render.document) if setup is None else _named(setup, render.name)
    check_range(used.first, used.last)
    check_render(opened(render.scene), used, element_pictures(render.project_id, used))
    with transaction.atomic():
        restart_job(render.job, _ranges(used))  # holds the job's row, so that two orders take turns
        row = Render.objects.get(pk=render.pk)
        row.document, row.version = used.model_dump(mode="json"), row.version + 1
        row.save(update_fields=["document", "version"])
    return row


def _ranges(setup: RenderSetup) -> list[tuple[int, int]]:
    return ranges_of(setup.first, setup.last, PIECE_FRAMES)


def _named(setup: RenderSetup, name: str) -> RenderSetup:
    """The set-up with files that are called by the render's name."""
    base = "".join(c if c.isalnum() or c in "-_" else "_" for c in name.strip())[:80].strip("_")
    if not base:
        raise ValueRefused(
            f"{name!r} cannot be the name of a render.", advice="Write letters or digits.", where="name"
        )
    return setup.model_copy(update={"name": base})
