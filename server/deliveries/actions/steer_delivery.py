"""Cancelling, retrying and forgetting deliveries."""

from __future__ import annotations

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from django.utils import timezone

from deliveries.models import Delivery
from deliveries.places import form_of

from .order_delivery import ACTIVE, start_pieces


def cancel_delivery(delivery: Delivery) -> Delivery:
    """Stop as soon as the frames in hand are whole; those that are whole stay."""
    with transaction.atomic():
        row = Delivery.objects.select_for_update().get(pk=delivery.pk)
        if row.state not in ACTIVE:
            raise Conflict(f"This delivery is {row.state}; there is nothing to cancel.")
        row.cancel = True
        if row.state == Delivery.State.QUEUED:
            row.state, row.ended = Delivery.State.CANCELLED, timezone.now()
        row.save(update_fields=["cancel", "state", "ended"])
        announce(row.project_id, "deliveries", row.pk)
    return row


def retry_delivery(delivery: Delivery) -> Delivery:
    """Go on with one that failed or was cancelled: frames that are whole are not written again."""
    with transaction.atomic():
        row = Delivery.objects.select_for_update().get(pk=delivery.pk)
        if row.state not in {Delivery.State.FAILED, Delivery.State.CANCELLED}:
            raise Conflict(f"This delivery is {row.state}; only one that failed or was cancelled can go on.")
        row.pieces.all().delete()
        row.state, row.cancel, row.problem, row.proved = Delivery.State.QUEUED, False, None, 0
        row.started = row.ended = None
        row.save()
        start_pieces(row, form_of(row))
    return row


def forget_delivery(delivery: Delivery) -> None:
    """Remove it from the list; its files stay where they are."""
    if delivery.state in ACTIVE:
        raise Conflict("This delivery is still at work.", advice="Cancel it first.")
    announce(delivery.project_id, "deliveries", delivery.pk)
    delivery.delete()
