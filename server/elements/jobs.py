"""Jobs about elements."""

from __future__ import annotations

from config.engine import decoder
from config.errors import NotThere
from config.jobs import RETRY
from procrastinate.contrib.django import app

from .actions.look_at import look_at


@app.task(queue="arrivals", retry=RETRY)
def look_at_element(element_id: int) -> None:
    """Find the facts of an element that has arrived."""
    try:
        look_at(element_id, decoder())
    except NotThere:
        return
