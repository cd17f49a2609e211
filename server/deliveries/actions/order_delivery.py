"""Ordering a delivery: checked before anything is rendered, then cut into pieces for the workers."""

from __future__ import annotations

from typing import Any

from comps.drawing import document_of
from comps.models import Comp
from config.engine import evaluator
from config.errors import Conflict
from config.events import announce
from config.queueing import check_range, put_pieces_in_queue, ranges_of
from django.db import transaction
from neatveil.comp import Comp as Document
from neatveil.comp.rate import parse_rate
from neatveil.delivery import Form, Target, count_losses, form_named
from neatveil.errors import ValueRefused, WouldLose

from deliveries.models import Delivery, Piece
from deliveries.places import checked_file, checked_place, root_of

#: Frames of one piece: short enough that little is done twice when a worker dies.
PIECE_FRAMES = 8

ACTIVE = (Delivery.State.QUEUED, Delivery.State.WRITING, Delivery.State.PROVING)


def order_delivery(
    comp: Comp, person: Any, *, form_name: str, first: int, last: int, rate: str | None,
    place: str, name: str, loss_accepted: bool = False,
) -> Delivery:  # fmt: skip
    """A delivery with its pieces and jobs, all in one transaction.

    Raises `ValueRefused` for a range, rate, place or name that will not do, `Conflict` where files of that
    name are there already, and `WouldLose` where the form cannot hold what is in the comp's first, middle and
    last frame, unless ``loss_accepted``.
    """
    form = form_named(form_name)
    document = document_of(comp)
    if not document.first <= first <= last <= document.last:
        raise ValueRefused(
            f"Frames {first} to {last} were asked; the comp has {document.first} to {document.last}.",
            advice="Choose a range inside the comp's.", where="first",
        )  # fmt: skip
    check_range(first, last)
    try:
        exact = parse_rate(rate) if rate else document.rate
    except ValueError as error:
        raise ValueRefused(str(error), where="rate") from error
    folder, file = checked_place(comp.project_id, place), checked_file(form, name)
    target = Target(folder / file).checked(form)
    root = root_of(comp.project_id)
    _check_free(comp.project_id, folder.relative_to(root).as_posix(), file, target, form, first, last)
    if not loss_accepted:
        _check_losses(document, form, first, last)
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
            place=folder.relative_to(root).as_posix(), file=file, loss_accepted=loss_accepted,
        )  # fmt: skip
        start_pieces(delivery, form)
    return delivery


def start_pieces(delivery: Delivery, form: Form) -> None:
    """Rows and jobs for the pieces; a movie is one piece."""
    from deliveries.jobs import write_piece

    size = delivery.count if form.kind == "movie" else PIECE_FRAMES
    ranges = ranges_of(delivery.first, delivery.last, size)
    rows = Piece.objects.bulk_create(Piece(delivery=delivery, first=a, last=b) for a, b in ranges)
    put_pieces_in_queue(write_piece, delivery.project_id, [r.pk for r in rows])
    announce(delivery.project_id, "deliveries", delivery.pk)


def _check_free(
    project_id: int, place: str, file: str, target: Target, form: Form, first: int, last: int
) -> None:
    same = Delivery.objects.filter(project_id=project_id, place=place, file=file, state__in=ACTIVE)
    names = {p.name for p in target.path.parent.iterdir()} if target.path.parent.is_dir() else set()
    there = next((p.name for p in target.files(form, range(first, last + 1)) if p.name in names), None)
    if same.exists() or there:
        raise Conflict(
            f"{place} already holds {there or file}.",
            advice="Choose another folder or file name; nothing is written over.", where="place",
        )  # fmt: skip


def _check_losses(document: Document, form: Form, first: int, last: int) -> None:
    losses = count_losses(
        lambda f: evaluator().picture(document, f, keep=False), form, range(first, last + 1)
    )
    if losses.lost_light:
        raise WouldLose(
            losses.words(form), advice="Deliver OpenEXR, which holds light, or order it all the same.",
            where="form",
        )  # fmt: skip
