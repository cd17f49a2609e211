"""Ordering rewrites of elements, cancelling them and going on with them."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.errors import CannotHoldAlpha, RateMissing, ValueRefused
from neatveil.io import Facts
from neatveil.rewrite import rewrite_form_named

from elements.models import Element, Rewrite

State = Rewrite.State
ACTIVE = (State.QUEUED, State.WRITING, State.CHECKING)


def order_rewrites(
    rows: list[Element], person: Any, form_name: str, *, alpha_may_go: bool = False, take_over: bool = False
) -> list[Rewrite]:
    """One rewrite each, all or none.

    Raises `CannotHoldAlpha` unless ``alpha_may_go``; `ValueRefused` for a still that would become a movie or
    gaps that are errors; `RateMissing`; `Conflict` for one that is not ready or is being rewritten.
    """
    form = rewrite_form_named(form_name)
    for row in rows:
        facts = _checked(row)
        has_alpha = facts.alpha or any(p["name"] == "A" for p in row.parts)
        if has_alpha and not form.alpha and not alpha_may_go and row.reading.get("alpha") != "none":
            raise CannotHoldAlpha(
                f"{form.title} cannot hold the alpha of {row.name}.",
                advice="Choose another form, or say that the alpha may go.", where=row.name,
            )  # fmt: skip
        if form.kind == "movie" and facts.kind == "still":
            raise ValueRefused(
                f"{row.name} is a still.", advice="Rewrite it to frames instead.", where=row.name
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
            rewrite_element.defer(rewrite_id=one.pk)
            announce(row.project_id, "elements", row.pk)
            made.append(one)
    return made


def _checked(row: Element) -> Facts:
    if row.state != Element.State.READY or row.facts is None:
        raise Conflict(f"{row.name} is not ready.", advice="Wait until it is looked at.", where=row.name)
    if row.rewrites.filter(state__in=ACTIVE).exists():
        raise Conflict(f"{row.name} is being rewritten already.", where=row.name)
    return Facts.model_validate(row.facts)


def cancel_rewrite(row: Rewrite) -> Rewrite:
    """Stop as soon as the frame in hand is done; what was written goes."""
    with transaction.atomic():
        locked = Rewrite.objects.select_for_update().get(pk=row.pk)
        if locked.state not in ACTIVE:
            raise Conflict(f"This rewriting is {locked.state}; there is nothing to cancel.")
        locked.cancel = True
        if locked.state == State.QUEUED:
            locked.state = State.CANCELLED
        locked.save(update_fields=["cancel", "state"])
        announce(locked.project_id, "elements", locked.element_id)
    return locked


def forget_rewrite(row: Rewrite) -> None:
    """Take it off the list; what it made stays."""
    if row.state in ACTIVE:
        raise Conflict("It is still at work.", advice="Cancel it first.")
    announce(row.project_id, "elements", row.element_id)
    row.delete()
