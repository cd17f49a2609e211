"""An order looked at before it is given: what its forms cannot hold, and how it will look."""

from __future__ import annotations

from collections.abc import Sequence

from config.engine import evaluator
from neatveil.delivery import (
    Advice,
    DeliveryForm,
    Taken,
    advice_for,
    form_of,
    format_named,
    format_of,
)
from neatveil.delivery.looks import Shown, look_of
from neatveil.errors import ValueRefused

from deliveries.orders import Order, Source, takes_of

from .order_delivery import looked_at, losses_of


def advice_of(order: Order, takes: Sequence[tuple[Source, Taken]], *, look: bool) -> list[Advice]:
    """What the forms cannot hold of some of the takes, each thing said once; ``look``: drawing frames."""
    found: dict[str, Advice] = {}
    for form in map(in_full, order.forms):
        for _, take in looked_at(takes):
            told = advice_for(form, take)
            if look and not any(a.weight == "refused" for a in told):
                # of RGB and alpha apart the first holds what can be lost
                told = advice_for(form, take, losses_of(take, format_of(form.parts()[0][1])))
            for advice in told:
                found.setdefault(advice.message, advice)
    return list(found.values())


def png_of(order: Order, shown: Shown) -> bytes:
    """The middle frame of the first take in the first form."""
    if not order.forms:
        raise ValueRefused("No format was chosen.", advice="Choose one or more.", where="format")
    _, take = takes_of(order)[0]
    number = take.numbers[len(take.numbers) // 2]
    form = in_full(order.forms[0]).parts()[0][1]
    picture = take.at_most_as_large().source(evaluator())(number)
    return look_of(picture, format_of(form), shown, number)


def in_full(form: DeliveryForm | str) -> DeliveryForm:
    return form_of(format_named(form)) if isinstance(form, str) else form
