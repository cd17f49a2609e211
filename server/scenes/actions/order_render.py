"""Ordering a render: checked before anything is traced, then cut into pieces for the workers."""

from __future__ import annotations

from typing import Any

from config.events import announce
from config.queueing import check_range, put_pieces_in_queue, ranges_of
from django.db import transaction
from neatveil.errors import ValueRefused
from neatveil.scene.rendering import check_render
from neatveil.scene.setup import RenderSetup, parse_setup

from scenes.models import Render, RenderPiece, Scene
from scenes.pictures import element_pictures
from scenes.places import opened

#: Frames of one piece: little is done twice when a worker dies, and all workers have some.
PIECE_FRAMES = 4


def order_render(scene: Scene, person: Any, name: str, setup: RenderSetup) -> Render:
    """A render with its pieces and jobs, all in one transaction.

    Raises what is wrong with scene and set-up, and `ValueRefused` for a name that files cannot have.
    """
    setup = _named(setup, name)
    check_range(setup.first, setup.last)
    check_render(opened(scene), setup, element_pictures(scene.project_id, setup))
    with transaction.atomic():
        render = Render.objects.create(
            project_id=scene.project_id, scene=scene, person=person, name=name.strip(),
            document=setup.model_dump(mode="json"),
        )  # fmt: skip
        start_pieces(render)
    return render


def render_again(render: Render, setup: RenderSetup | None) -> Render:
    """Render it again, perhaps by another set-up; its elements, and every comp that uses them, follow.

    Raises `Conflict` while it is rendered, and what is wrong with the set-up.
    """
    from config.errors import Conflict

    from .steer_render import ACTIVE

    used = parse_setup(render.document) if setup is None else _named(setup, render.name)
    check_range(used.first, used.last)
    check_render(opened(render.scene), used, element_pictures(render.project_id, used))
    with transaction.atomic():
        row = Render.objects.select_for_update().get(pk=render.pk)
        if row.state in ACTIVE:
            raise Conflict(f"{row.name} is being rendered.", advice="Cancel that first.", where=row.name)
        row.document, row.version = used.model_dump(mode="json"), row.version + 1
        begin_anew(row)
    return row


def begin_anew(row: Render) -> None:
    """Queue it again; inside a transaction."""
    row.pieces.all().delete()
    row.state, row.cancel, row.problem, row.newest = Render.State.QUEUED, False, None, None
    row.started = row.ended = None
    row.save()
    start_pieces(row)


def start_pieces(render: Render) -> None:
    from scenes.jobs import render_piece

    setup = parse_setup(render.document)
    ranges = ranges_of(setup.first, setup.last, PIECE_FRAMES)
    rows = RenderPiece.objects.bulk_create(RenderPiece(render=render, first=a, last=b) for a, b in ranges)
    put_pieces_in_queue(render_piece, render.project_id, [r.pk for r in rows])
    announce(render.project_id, "renders", render.pk)


def _named(setup: RenderSetup, name: str) -> RenderSetup:
    """The set-up with files that are called by the render's name."""
    base = "".join(c if c.isalnum() or c in "-_" else "_" for c in name.strip())[:80].strip("_")
    if not base:
        raise ValueRefused(
            f"{name!r} cannot be the name of a render.", advice="Write letters or digits.", where="name"
        )
    return setup.model_copy(update={"name": base})
