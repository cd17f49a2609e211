"""Ordering deliveries: checked before anything is rendered, then cut into pieces for the workers."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby
from typing import Any, TypeVar

from config.engine import evaluator
from config.errors import Conflict
from config.queueing import ranges_of
from django.db import transaction
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.models import Job
from neatveil.delivery import DeliveryFormat, Losses, Taken, count_losses
from neatveil.errors import WouldLose
from neatveil.frame_list import frames_in_words

from deliveries.models import Delivery
from deliveries.orders import Order, Planned, already_there, planned, takes_of

from .write_piece import KIND

T = TypeVar("T")

#: Frames of one piece: short enough that little is done twice when a worker dies.
PIECE_FRAMES = 8
#: Of more takes in one order some stand for the others where losses are looked for.
MOST_LOOKED_AT = 3


def order_deliveries(order: Order, person: Any) -> list[Delivery]:
    """All deliveries of an order, or none.

    Raises as `takes_of` and `planned`; `Conflict` where files of a name are there already, and `WouldLose`
    where a format cannot hold what is in the first, middle and last frame, unless that was accepted.
    """
    takes = takes_of(order)
    rows = planned(order, takes)
    _refuse_taken(order, rows)
    if not order.loss_accepted:
        for forms in looked_at(_by_take(rows)):
            _refuse_losses(forms)
    with transaction.atomic():
        # two orders at once take turns here, so that the second sees the first one's rows
        type(order.project).objects.select_for_update().get(pk=order.project.pk)
        rows = planned(order, takes)
        _refuse_taken(order, rows)
        return [row for forms in _by_take(rows) for row in _made(order, forms, person)]


def _by_take(rows: Sequence[Planned]) -> list[list[Planned]]:
    """Every take in all its forms."""
    return [list(forms) for _, forms in groupby(rows, key=lambda one: id(one.taken))]


def looked_at(rows: Sequence[T]) -> list[T]:
    """Those whose frames are looked at for losses: looking at every row of a list would take minutes."""
    if len(rows) <= MOST_LOOKED_AT:
        return list(rows)
    return [rows[0], rows[len(rows) // 2], rows[-1]]


def losses_of(taken: Taken, formats: Sequence[DeliveryFormat]) -> list[Losses]:
    """What each format cannot hold of a take's first, middle and last frame."""
    # enlarged, a frame may take more memory than a web process has
    shown = taken.at_most_as_large()
    return count_losses(shown.source(evaluator()), formats, shown.numbers)


def _refuse_losses(forms: Sequence[Planned]) -> None:
    formats = [one.format for one in forms]
    for made, losses in zip(formats, losses_of(forms[0].taken, formats), strict=True):
        if losses.lost_light:
            raise WouldLose(
                losses.words(made),
                advice="Deliver OpenEXR, which holds light, or order it all the same.", where="format",
            )  # fmt: skip


def _refuse_taken(order: Order, rows: Sequence[Planned]) -> None:
    if there := already_there(order.project.pk, rows):
        raise Conflict(
            f"{there[0]} is there already.",
            advice="Put {version} into the folder or the name, or choose others; nothing is overwritten.",
            where="folder",
        )


def _made(order: Order, forms: Sequence[Planned], person: Any) -> list[Delivery]:
    """One take in all its forms, which share a job."""
    count = len(forms[0].taken.numbers)
    movie = any(one.format.kind == "movie" for one in forms)
    # counted from 1: numbers may have gaps; a movie is one piece
    job = create_job(KIND, order.project.pk, person, ranges_of(1, count, count if movie else PIECE_FRAMES))
    rows = [_row(order, one, job) for one in forms]
    queue_pieces(job)
    return rows


def _row(order: Order, one: Planned, job: Job) -> Delivery:
    numbers = one.taken.numbers
    return Delivery.objects.create(
        project=order.project, job=job, document=one.source.document.model_dump(mode="json"),
        comp_name=one.name, format=one.format.name,
        form=None if one.form is None else one.form.model_dump(mode="json"),
        take=order.take.model_dump(mode="json"), first=numbers[0], last=numbers[-1],
        numbers=frames_in_words(numbers), rate=str(one.taken.rate),
        root=one.root, folder=one.folder, file=one.target.path.name, loss_accepted=order.loss_accepted,
    )  # fmt: skip
