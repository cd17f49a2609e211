"""Cancelling, resuming and forgetting renders."""

from __future__ import annotations

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from django.utils import timezone

from scenes.models import Render

State = Render.State
ACTIVE = (State.QUEUED, State.RENDERING)


def cancel_render(render: Render) -> Render:
    """Stop soon; frames that are whole stay."""
    with transaction.atomic():
        row = Render.objects.select_for_update().get(pk=render.pk)
        if row.state not in ACTIVE:
            raise Conflict(f"This render is {row.state}; there is nothing to cancel.")
        row.cancel = True
        if row.state == State.QUEUED:
            row.state, row.ended = State.CANCELLED, timezone.now()
        row.save(update_fields=["cancel", "state", "ended"])
        announce(row.project_id, "renders", row.pk)
    return row


def resume_render(render: Render) -> Render:
    """Go on with one that failed or was cancelled: frames that are whole are not rendered again."""
    from .order_render import begin_anew

    with transaction.atomic():
        row = Render.objects.select_for_update().get(pk=render.pk)
        if row.state not in {State.FAILED, State.CANCELLED}:
            raise Conflict(f"This render is {row.state}; only one that failed or was cancelled can go on.")
        begin_anew(row)
    return row


def forget_render(render: Render) -> None:
    """Remove it from the list; its elements and files stay."""
    if render.state in ACTIVE:
        raise Conflict("This render is still at work.", advice="Cancel it first.")
    announce(render.project_id, "renders", render.pk)
    render.delete()
