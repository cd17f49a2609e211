"""Ordering rewrites of elements, cancelling them and going on with them."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from config.events import announce
from config.queueing import put_in_queue
from django.db import transaction
from neatveil.errors import RateMissing, ValueRefused, WouldLose
from neatveil.io import Facts
from neatveil.rewrite import dropped, narrowed, rewrite_form_named

from elements.models import Element, Rewrite
from elements.resolve import core_element

State = Rewrite.State
ACTIVE = (State.QUEUED, State.WRITING, State.CHECKING)


def order_rewrites(
    rows: list[Element], person: Any, form_name: str, *, loss_accepted: bool = False, take_over: bool = False
) -> list[Rewrite]:
    """One rewrite each, all or none.

    Raises `WouldLose` unless ``loss_accepted``; `ValueRefused` for a still that would become a movie or gaps
    that are errors; `RateMissing`; `Conflict` for one that is not ready or is being rewritten.
    """
    form = rewrite_form_named(form_name)
    for row in rows:
        facts = _checked(row)
        lost = dropped(core_element(row), facts, form)
        if lost and not loss_accepted:
            raise WouldLose(
                f"{row.name}: {' '.join(lost)}", advice="Choose another form, or say that it may go.",
                where=row.name,
            )  # fmt: skip
        if form.kind == "movie" and facts.kind == "still":
            raise ValueRefused(
                f"{row.name} is a still.", advice="Transcode it to frames instead.", where=row.name
            )
        if form.kind == "movie" and not (row.rate or facts.rate):
            raise RateMissing(f"{row.name} gives no frame rate.", advice="Set it first.", where=row.name)
        if facts.missing and row.gaps == "error":
            raise ValueRefused(
                f"{row.name} has {len(facts.missing)} missing frames.",
                advice="Say first whether the frame before or black stands in for them.", where=row.name,
            )  # fmt: skip
    from elements.jobs import rewrite_element

    made = []
    with transaction.atomic():
        for row in rows:
            facts = Facts.model_validate(row.facts)
            one = Rewrite.objects.create(
                project_id=row.project_id, element=row, form=form.name, take_over=take_over, person=person,
                count=facts.last - facts.first + 1,
            )  # fmt: skip
            put_in_queue(rewrite_element, rewrite_id=one.pk)
            announce(row.project_id, "elements", row.pk)
            made.append(one)
    return made


def losses_of(row: Element, form_name: str) -> tuple[list[str], list[str]]:
    """What a form cannot hold of an element, and what it holds in less: sentences, before it is ordered."""
    form, facts, element = rewrite_form_named(form_name), _checked(row), core_element(row)
    return dropped(element, facts, form), narrowed(element, facts, form)


def _checked(row: Element) -> Facts:
    if row.state != Element.State.READY or row.facts is None:
        raise Conflict(f"{row.name} is not ready.", advice="Wait until it is looked at.", where=row.name)
    if row.rewrites.filter(state__in=ACTIVE).exists():
        raise Conflict(f"{row.name} is being transcoded already.", where=row.name)
    return Facts.model_validate(row.facts)


def cancel_rewrite(row: Rewrite) -> Rewrite:
    """Stop as soon as the frame in hand is done; what was written goes."""
    with transaction.atomic():
        locked = Rewrite.objects.select_for_update().get(pk=row.pk)
        if locked.state not in ACTIVE:
            raise Conflict(f"This transcode is {locked.state}; there is nothing to cancel.")
        locked.cancel = True
        if locked.state == State.QUEUED:
            locked.state = State.CANCELLED
        locked.save(update_fields=["cancel", "state"])
        announce(locked.project_id, "elements", locked.element_id)
    return locked


def forget_rewrite(row: Rewrite) -> None:
    """Remove it from the list; what it made stays."""
    if row.state in ACTIVE:
        raise Conflict("It is still at work.", advice="Cancel it first.")
    announce(row.project_id, "elements", row.element_id)
    row.delete()
