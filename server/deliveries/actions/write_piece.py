"""Writing one piece of a delivery. Done again from where it stands when a worker died."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from config.events import announce
from config.queueing import put_in_queue
from config.trouble import as_problem
from django.db import transaction
from django.utils import timezone
from neatveil.comp.document import parse_comp
from neatveil.delivery import write_frames, write_movie
from neatveil.errors import Cancelled, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io.decoder import describe
from neatveil.picture import PremultipliedPicture

from deliveries.models import Delivery, Piece
from deliveries.places import form_of, target_of

State = Delivery.State


def write_piece(piece_id: int, evaluator: Evaluator) -> None:
    """Write the frames that are not there yet; the last piece starts the proof."""
    piece = Piece.objects.select_related("delivery").filter(pk=piece_id).first()
    if piece is None or piece.done:
        return
    delivery = piece.delivery
    if delivery.cancel or delivery.state not in {State.QUEUED, State.WRITING}:
        _end_if_cancelled(delivery)
        return
    _started(delivery)
    try:
        _write(piece, delivery, evaluator)
    except Cancelled:
        _end_if_cancelled(delivery)
        return
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        if not Piece.objects.filter(pk=piece.pk).exists():
            return  # the delivery was begun again meanwhile, with pieces of its own
        _failed(delivery, as_problem(error, f"Writing frames {piece.first} to {piece.last}"))
        return
    _piece_done(piece)


def source_of(delivery: Delivery, evaluator: Evaluator) -> Callable[[int], PremultipliedPicture]:
    """The delivery's frames, as it was ordered."""
    document = parse_comp(delivery.document, delivery.comp_name)
    return lambda frame: evaluator.picture(document, frame, keep=False)


def asks_for_cancel(delivery: Delivery) -> Callable[[], bool]:
    return lambda: Delivery.objects.filter(pk=delivery.pk, cancel=True).exists()


def _write(piece: Piece, delivery: Delivery, evaluator: Evaluator) -> None:
    form, target = form_of(delivery), target_of(delivery)
    frames = list(range(piece.first, piece.last + 1))
    asked = asks_for_cancel(delivery)

    def cancelled() -> bool:
        return asked() or not Piece.objects.filter(pk=piece.pk).exists()

    def progress(frame: int) -> None:
        Piece.objects.filter(pk=piece.pk).update(written=frame - piece.first + 1)
        announce(delivery.project_id, "deliveries", delivery.pk)

    source = source_of(delivery, evaluator)
    if form.kind == "movie":
        write_movie(
            source, form, target, frames, Fraction(delivery.rate), progress=progress, cancelled=cancelled
        )
        return
    # Files appear under their name only when whole: what is there need not be written again.
    left = [f for f in frames if not target.frame_path(f).exists()]
    write_frames(source, form, target, left, progress=progress, cancelled=cancelled)


def _started(delivery: Delivery) -> None:
    Delivery.objects.filter(pk=delivery.pk, state=State.QUEUED).update(
        state=State.WRITING, started=timezone.now()
    )


def _failed(delivery: Delivery, error: NeatVeilError) -> None:
    with transaction.atomic():
        # what has ended stays as it ended: a late failure does not undo a cancellation
        Delivery.objects.filter(
            pk=delivery.pk, state__in=(State.QUEUED, State.WRITING, State.PROVING)
        ).update(state=State.FAILED, problem=describe(error), ended=timezone.now())
        announce(delivery.project_id, "deliveries", delivery.pk)


def _end_if_cancelled(delivery: Delivery) -> None:
    with transaction.atomic():
        active = (State.QUEUED, State.WRITING, State.PROVING)
        Delivery.objects.filter(pk=delivery.pk, cancel=True, state__in=active).update(
            state=State.CANCELLED, ended=timezone.now()
        )
        announce(delivery.project_id, "deliveries", delivery.pk)


def _piece_done(piece: Piece) -> None:
    from deliveries.jobs import prove_delivery

    with transaction.atomic():
        delivery = Delivery.objects.select_for_update().get(pk=piece.delivery_id)
        Piece.objects.filter(pk=piece.pk).update(done=True, written=piece.last - piece.first + 1)
        if delivery.state == State.WRITING and not delivery.pieces.filter(done=False).exists():
            delivery.state = State.PROVING
            delivery.save(update_fields=["state"])
            put_in_queue(prove_delivery, delivery_id=delivery.pk)
        announce(delivery.project_id, "deliveries", delivery.pk)
