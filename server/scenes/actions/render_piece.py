"""Rendering one piece. Done again from the frame it was on when a worker died."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext

from config.events import announce
from config.trouble import as_problem
from django.db import transaction
from django.utils import timezone
from neatveil.errors import Cancelled, NeatVeilError
from neatveil.io.decoder import describe
from neatveil.numeric.pool import in_this_thread
from neatveil.scene.rendering import render_range
from neatveil.scene.setup import parse_setup

from scenes.models import Render, RenderPiece
from scenes.pictures import element_pictures
from scenes.places import opened, render_folder

from .finish_render import finish_render
from .steer_render import ACTIVE, State

#: Seconds between two looks at whether the render is cancelled.
LOOK_AFTER = 0.5


def render_piece(piece_id: int) -> None:
    """Render the frames that are not there yet; the last piece makes the elements."""
    piece = RenderPiece.objects.select_related("render__scene").filter(pk=piece_id).first()
    if piece is None:
        return
    render = piece.render
    if piece.done:
        # the worker may have been killed between its last piece and the elements: finishing may be done twice
        _finish_if_whole(render)
        return
    if render.cancel or render.state not in ACTIVE:
        _end_if_cancelled(render)
        return
    Render.objects.filter(pk=render.pk, state=State.QUEUED).update(
        state=State.RENDERING, started=timezone.now()
    )
    try:
        _render(piece, render)
        _piece_done(piece)
    except Cancelled:
        _end_if_cancelled(render)
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        _failed(render, as_problem(error, f"Rendering frames {piece.first} to {piece.last}"))


def _render(piece: RenderPiece, render: Render) -> None:
    setup = parse_setup(render.document)

    def progress(frame: int) -> None:
        RenderPiece.objects.filter(pk=piece.pk).update(written=frame - piece.first + 1)
        Render.objects.filter(pk=render.pk).update(newest=frame)
        announce(render.project_id, "renders", render.pk)

    with _threads(render):
        render_range(
            opened(render.scene), setup, range(piece.first, piece.last + 1), render_folder(render),
            pictures=element_pictures(render.project_id, setup), progress=progress,
            cancelled=_asks_for_cancel(render),
        )  # fmt: skip


def _threads(render: Render) -> AbstractContextManager[None]:
    """Workers render whole frames beside each other; a lone piece has all processors."""
    return nullcontext() if render.pieces.count() == 1 else in_this_thread()


def _asks_for_cancel(render: Render) -> Callable[[], bool]:
    """Asked at every strip, which is too often for the database."""
    looked, answer = 0.0, False

    def asks() -> bool:
        nonlocal looked, answer
        now = time.monotonic()
        if not answer and now - looked > LOOK_AFTER:
            looked = now
            answer = Render.objects.filter(pk=render.pk, cancel=True).exists()
        return answer

    return asks


def _piece_done(piece: RenderPiece) -> None:
    with transaction.atomic():
        render = Render.objects.select_for_update().get(pk=piece.render_id)
        RenderPiece.objects.filter(pk=piece.pk).update(done=True, written=piece.last - piece.first + 1)
        last = render.state == State.RENDERING and not render.pieces.filter(done=False).exists()
        announce(render.project_id, "renders", render.pk)
    if last:
        finish_render(render)


def _finish_if_whole(render: Render) -> None:
    if render.state != State.RENDERING or render.pieces.filter(done=False).exists():
        return
    try:
        finish_render(render)
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        _failed(render, as_problem(error, "Making elements of the render"))


def _failed(render: Render, error: NeatVeilError) -> None:
    with transaction.atomic():
        Render.objects.filter(pk=render.pk, state__in=ACTIVE).update(
            state=State.FAILED, problem=describe(error), ended=timezone.now()
        )
        announce(render.project_id, "renders", render.pk)


def _end_if_cancelled(render: Render) -> None:
    with transaction.atomic():
        Render.objects.filter(pk=render.pk, cancel=True, state__in=ACTIVE).update(
            state=State.CANCELLED, ended=timezone.now()
        )
        announce(render.project_id, "renders", render.pk)
