"""Jobs about deliveries."""

from __future__ import annotations

from config.engine import evaluator
from config.jobs import RETRY
from procrastinate.contrib.django import app

from .actions import prove_delivery as proving
from .actions import write_piece as writing


@app.task(queue="deliveries", retry=RETRY)
def write_piece(piece_id: int, project_id: int = 0) -> None:
    """Write one piece of a delivery."""
    writing.write_piece(piece_id, evaluator())


@app.task(queue="deliveries", retry=RETRY)
def prove_delivery(delivery_id: int) -> None:
    """Re-read and compare what was written."""
    proving.prove_delivery(delivery_id, evaluator())
