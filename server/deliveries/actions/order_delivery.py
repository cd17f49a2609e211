"""Ordering a delivery: checked before anything is rendered, then cut into pieces for the workers."""

from __future__ import annotations

from typing import Any

from comps.drawing import document_of
from comps.models import Comp
from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.comp.rate import parse_rate
from neatveil.delivery import Form, Target, form_named
from neatveil.errors import ValueRefused

from deliveries.models import Delivery, Piece
from deliveries.places import checked_file, checked_place, root_of

#: Frames of one piece: short enough that little is done twice when a worker dies.
PIECE_FRAMES = 8

ACTIVE = (Delivery.State.QUEUED, Delivery.State.WRITING, Delivery.State.PROVING)


def order_delivery(
    comp: Comp, person: Any, *, form_name: str, first: int, last: int, rate: str | None,
    place: str, name: str,
) -> Delivery:  # fmt: skip
    """A delivery with its pieces and jobs, all in one transaction.

    Raises `ValueRefused` for a range, rate, place or name that will not do, and `Conflict` where
    files of that name are there already.
    """
    form = form_named(form_name)
    document = document_of(comp)
    if not document.first <= first <= last <= document.last:
        raise ValueRefused(
            f"Frames {first} to {last} were asked; the comp has {document.first} to {document.last}.",
            advice="Choose a range inside the comp's.", where="first",
        )  # fmt: skip
    try:
        exact = parse_rate(rate) if rate else document.rate
    except ValueError as error:
        raise ValueRefused(str(error), where="rate") from error
    folder, file = checked_place(comp.project_id, place), checked_file(form, name)
    target = Target(folder / file).checked(form)
    data = document.model_dump(mode="json")
    with transaction.atomic():
        comp.project.__class__.objects.select_for_update().get(pk=comp.project_id)
        _check_free(
            comp.project_id,
            folder.relative_to(root_of(comp.project_id)).as_posix(),
            file,
            target,
            form,
            first,
            last,
        )
        delivery = Delivery.objects.create(
            project_id=comp.project_id, person=person, comp_name=comp.name, document=data, form=form.name,
            first=first, last=last, rate=str(exact),
            place=folder.relative_to(root_of(comp.project_id)).as_posix(), file=file,
        )  # fmt: skip
        start_pieces(delivery, form)
    return delivery


def start_pieces(delivery: Delivery, form: Form) -> None:
    """Rows and jobs for the pieces; a movie is one piece."""
    from deliveries.jobs import write_piece

    size = delivery.count if form.kind == "movie" else PIECE_FRAMES
    for first in range(delivery.first, delivery.last + 1, size):
        last = min(delivery.last, first + size - 1)
        piece = Piece.objects.create(delivery=delivery, first=first, last=last)
        write_piece.defer(piece_id=piece.pk)
    announce(delivery.project_id, "deliveries", delivery.pk)


def _check_free(
    project_id: int, place: str, file: str, target: Target, form: Form, first: int, last: int
) -> None:
    same = Delivery.objects.filter(project_id=project_id, place=place, file=file, state__in=ACTIVE)
    there = [p for p in target.files(form, range(first, last + 1)) if p.exists()]
    if same.exists() or there:
        raise Conflict(
            f"{place} already holds {there[0].name if there else file}.",
            advice="Choose another place or name; nothing is written over.", where="place",
        )  # fmt: skip
