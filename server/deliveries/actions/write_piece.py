"""Writing one piece of a delivery: the frames of it that are not there yet."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from config.engine import evaluator
from jobs.control import Control
from jobs.models import Piece
from neatveil.comp.loading import parse_comp
from neatveil.delivery import write_frames, write_movie
from neatveil.picture import PremultipliedPicture

from deliveries.models import Delivery
from deliveries.places import format_of_delivery, target_of

KIND, QUEUE = "delivery", "deliveries"


def run_piece(piece: Piece, control: Control) -> None:
    """Files appear under their name only when they are whole: what is there is not written again."""
    delivery = Delivery.objects.get(job_id=piece.job_id)
    delivery_format, target = format_of_delivery(delivery), target_of(delivery)
    frames = list(range(piece.first, piece.last + 1))
    source = source_of(delivery)
    if delivery_format.kind == "movie":
        write_movie(
            source, delivery_format, target, frames, Fraction(delivery.rate), progress=control.frame_written,
            cancelled=control.cancelled,
        )  # fmt: skip
        return
    left = [f for f in frames if not target.frame_path(f).exists()]
    write_frames(
        source, delivery_format, target, left, progress=control.frame_written, cancelled=control.cancelled
    )


def source_of(delivery: Delivery) -> Callable[[int], PremultipliedPicture]:
    """The delivery's frames, as it was ordered."""
    document = parse_comp(delivery.document, delivery.comp_name)
    return lambda frame: evaluator().picture(document, frame, keep=False)
