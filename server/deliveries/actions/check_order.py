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
    forms = [in_full(f) for f in order.forms]
    found: dict[str, Advice] = {}
    for _, take in looked_at(takes):
        for advice in _advice_of_take(forms, take, look=look):
            found.setdefault(advice.message, advice)
    return list(found.values())


def _advice_of_take(forms: Sequence[DeliveryForm], take: Taken, *, look: bool) -> list[Advice]:
    known = [advice_for(form, take) for form in forms]
    if look:
        possible = [n for n, told in enumerate(known) if not any(a.weight == "refused" for a in told)]
        # of RGB and alpha apart the first holds what can be lost
        formats = [format_of(forms[n].parts()[0][1]) for n in possible]
        for n, losses in zip(possible, losses_of(take, formats) if formats else [], strict=True):
            known[n] = advice_for(forms[n], take, losses)
    return [advice for told in known for advice in told]


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
