"""Writing one piece of a delivery: the frames of it that are not there yet."""

from __future__ import annotations

import hashlib
import json
from fractions import Fraction

from config.engine import evaluator
from jobs.control import Control
from jobs.models import Piece
from neatveil.delivery import write_together

from deliveries.models import Delivery
from deliveries.places import deliveries_of, output_of, taken_of

KIND, QUEUE = "delivery", "deliveries"


def run_piece(piece: Piece, control: Control) -> None:
    """Files appear under their name only when they are whole: what is there is not written again.

    All forms of a frame are written together. A piece counts frames from 1, whatever numbers they have.
    """
    rows = deliveries_of(piece.job_id)
    taken = taken_of(rows[0])
    places = taken.places
    write_together(
        taken.source(evaluator()), [output_of(row) for row in rows],
        taken.numbers[piece.first - 1 : piece.last], Fraction(rows[0].rate),
        stamp=taken.stamp(_hash_of(rows[0])), resume=True,
        progress=lambda number: control.frame_written(places[number]), cancelled=control.cancelled,
    )  # fmt: skip


def _hash_of(delivery: Delivery) -> str:
    """Of the document and what is taken of it: the same for files of the same source."""
    told = json.dumps([delivery.document, delivery.take], sort_keys=True)
    return hashlib.sha256(told.encode()).hexdigest()
