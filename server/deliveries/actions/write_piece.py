"""Writing one piece of a delivery: the frames of it that are not there yet."""

from __future__ import annotations

import hashlib
import json
from fractions import Fraction

from config.engine import evaluator
from jobs.control import Control
from jobs.models import Piece
from neatveil.delivery import write_frames, write_movie

from deliveries.models import Delivery
from deliveries.places import format_of_delivery, taken_of, target_of

KIND, QUEUE = "delivery", "deliveries"


def run_piece(piece: Piece, control: Control) -> None:
    """Files appear under their name only when they are whole: what is there is not written again.

    A piece counts frames from 1, whatever numbers they have.
    """
    delivery = Delivery.objects.get(job_id=piece.job_id)
    delivery_format, target, taken = format_of_delivery(delivery), target_of(delivery), taken_of(delivery)
    source = taken.source(evaluator())
    places = taken.places
    numbers = taken.numbers[piece.first - 1 : piece.last]

    def progress(number: int) -> None:
        control.frame_written(places[number])

    stamp = taken.stamp(_hash_of(delivery))
    if delivery_format.kind == "movie":
        write_movie(
            source, delivery_format, target, numbers, Fraction(delivery.rate), stamp=stamp, progress=progress,
            cancelled=control.cancelled,
        )  # fmt: skip
        return
    left = [n for n in numbers if not target.frame_path(n).exists()]
    write_frames(
        source, delivery_format, target, left, stamp=stamp, progress=progress, cancelled=control.cancelled
    )


def _hash_of(delivery: Delivery) -> str:
    """Of the document and what is taken of it: the same for files of the same source."""
    told = json.dumps([delivery.document, delivery.take], sort_keys=True)
    return hashlib.sha256(told.encode()).hexdigest()
