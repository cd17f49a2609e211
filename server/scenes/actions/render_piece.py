"""Rendering one piece. Done again from the frame it was on when a worker died."""

from __future__ import annotations

from contextlib import AbstractContextManager, nullcontext

from jobs.control import Control
from jobs.models import Piece
from neatveil.numeric.pool import in_this_thread
from neatveil.scene.rendering import render_range
from neatveil.scene.setup import parse_setup

from scenes.models import Render
from scenes.pictures import element_pictures
from scenes.places import opened, render_folder

KIND, QUEUE = "render", "renders"


def run_piece(piece: Piece, control: Control) -> None:
    """Render the frames that are not there yet."""
    render = Render.objects.select_related("scene").get(job_id=piece.job_id)
    setup = parse_setup(render.document)
    with _threads(piece):
        render_range(
            opened(render.scene), setup, range(piece.first, piece.last + 1), render_folder(render),
            pictures=element_pictures(render.project_id, setup), progress=control.frame_written,
            cancelled=control.cancelled,
        )  # fmt: skip


def _threads(piece: Piece) -> AbstractContextManager[None]:
    """Workers render whole frames beside each other; a lone piece has all processors."""
    alone = Piece.objects.filter(job_id=piece.job_id).count() == 1
    return nullcontext() if alone else in_this_thread()
