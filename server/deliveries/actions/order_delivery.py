"""Ordering a delivery: checked before anything is rendered, then cut into pieces for the workers."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from comps.drawing import document_of
from comps.lists import cells_wrong
from comps.models import Comp
from config.engine import evaluator
from config.errors import Conflict
from config.queueing import check_range, ranges_of
from django.db import transaction
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.models import ACTIVE
from neatveil.comp import Comp as Document
from neatveil.comp.loading import parse_comp
from neatveil.comp.rate import parse_rate
from neatveil.comp.rows import named_after
from neatveil.delivery import DeliveryForm, DeliveryFormat, Target, count_losses, format_named, format_of
from neatveil.errors import ValueRefused, WouldLose

from deliveries.models import Delivery
from deliveries.places import checked_file, checked_folder, root_of

from .write_piece import KIND

#: Frames of one piece: short enough that little is done twice when a worker dies.
PIECE_FRAMES = 8


def order_rows(
    comp: Comp, person: Any, rows: Sequence[int], *, folder: str, name: str, loss_accepted: bool, **order: Any
) -> list[Delivery]:
    """A delivery for every chosen row of the comp's list, or none; in their names tokens are filled in.

    Raises as `order_delivery`; `ValueRefused` as well where a cell of a chosen row is wrong, the list has no
    such row, or two rows would have one name.
    """
    document = parse_comp(comp.document, comp.name)
    count = len(document.rows)
    if beyond := [n for n in rows if not 1 <= n <= count]:
        raise ValueRefused(f"The list has no row {beyond[0]}.", advice=f"It has {count}.", where="rows")
    wrong = [p for p in cells_wrong(document, comp.project_id) if p.row in (0, *rows)]
    if wrong:
        told = "; ".join(f"row {p.row}, {p.column}: {p.message}" if p.row else p.message for p in wrong[:5])
        raise ValueRefused(
            f"The list has {len(wrong)} wrong cells: {told}", advice="Mend them in the list.", where="rows"
        )
    named = {
        n: (
            named_after(folder, document.rows[n - 1], n, count),
            named_after(name, document.rows[n - 1], n, count),
        )
        for n in rows
    }
    if len(set(named.values())) < len(named):
        raise ValueRefused(
            "Rows would be written over each other.",
            advice="Put {row} or a slot's name in braces into the file name.", where="name",
        )  # fmt: skip
    ends = {rows[0], rows[len(rows) // 2], rows[-1]}
    with transaction.atomic():
        return [
            delivery
            for n, (to, called) in named.items()
            for delivery in order_parts(
                comp, person, folder=to, name=called, row=n,
                # looking at three frames of every row would take minutes: three rows stand for the others
                loss_accepted=loss_accepted, look_for_losses=n in ends, **order,
            )
        ]  # fmt: skip


def order_parts(
    comp: Comp, person: Any, *, form: DeliveryForm | None, name: str, **order: Any
) -> list[Delivery]:
    """What a form writes: one delivery, or two for RGB and alpha apart; all or none. As `order_delivery`."""
    parts = [("", None)] if form is None else form.parts()
    with transaction.atomic():
        return [
            order_delivery(comp, person, form=part, name=f"{name}{suffix}", **order) for suffix, part in parts
        ]


def order_delivery(
    comp: Comp, person: Any, *, format_name: str, form: DeliveryForm | None = None, first: int, last: int,
    rate: str | None, folder: str, name: str, loss_accepted: bool = False, row: int | None = None,
    look_for_losses: bool = True,
) -> Delivery:  # fmt: skip
    """A delivery with its job, all in one transaction. ``form``: instead of a ready format, of one file.

    Raises `ValueRefused` for a range, rate, folder or name that will not do, `Conflict` where files of that
    name are there already, and `WouldLose` where the format cannot hold what is in the comp's first, middle
    and last frame, unless ``loss_accepted``; or ``look_for_losses`` is off, where other rows stand for it.
    """
    delivery_format = format_named(format_name) if form is None else format_of(form)
    document = document_of(comp, row)
    delivery_format.codec.refuse_size(document.width, document.height, name)
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
    path, file = checked_folder(comp.project_id, folder), checked_file(delivery_format, name)
    target = Target(path / file).checked(delivery_format)
    inside = path.relative_to(root_of(comp.project_id)).as_posix()
    _check_free(comp.project_id, inside, file, target, delivery_format, first, last)
    if look_for_losses and not loss_accepted:
        _check_losses(document, delivery_format, first, last)
    data = document.model_dump(mode="json")
    size = last - first + 1 if delivery_format.kind == "movie" else PIECE_FRAMES  # a movie is one piece
    with transaction.atomic():
        # two orders at once take turns here, so that the second sees the first one's row
        comp.project.__class__.objects.select_for_update().get(pk=comp.project_id)
        _check_free(comp.project_id, inside, file, target, delivery_format, first, last)
        job = create_job(KIND, comp.project_id, person, ranges_of(first, last, size))
        delivery = Delivery.objects.create(
            project_id=comp.project_id, job=job, document=data,
            comp_name=comp.name if row is None else f"{comp.name[:180]}, row {row}",
            format=delivery_format.name, form=None if form is None else form.model_dump(mode="json"),
            first=first, last=last, rate=str(exact), folder=inside, file=file, loss_accepted=loss_accepted,
        )  # fmt: skip
        queue_pieces(job)
    return delivery


def _check_free(
    project_id: int,
    folder: str,
    file: str,
    target: Target,
    delivery_format: DeliveryFormat,
    first: int,
    last: int,
) -> None:
    same = Delivery.objects.filter(project_id=project_id, folder=folder, file=file, job__state__in=ACTIVE)
    names = {p.name for p in target.path.parent.iterdir()} if target.path.parent.is_dir() else set()
    there = next(
        (p.name for p in target.files(delivery_format, range(first, last + 1)) if p.name in names), None
    )
    if same.exists() or there:
        raise Conflict(
            f"{folder} already holds {there or file}.",
            advice="Choose another folder or file name; nothing is written over.", where="folder",
        )  # fmt: skip


def _check_losses(document: Document, delivery_format: DeliveryFormat, first: int, last: int) -> None:
    losses = count_losses(
        lambda f: evaluator().picture(document, f, keep=False), delivery_format, range(first, last + 1)
    )
    if losses.lost_light:
        raise WouldLose(
            losses.words(delivery_format),
            advice="Deliver OpenEXR, which holds light, or order it all the same.", where="format",
        )  # fmt: skip
