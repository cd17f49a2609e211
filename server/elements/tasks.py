"""Jobs about elements."""

from __future__ import annotations

from config.engine import decoder, evaluator
from config.errors import NotThere
from config.tasks import queued_task
from procrastinate.contrib.django import app

from .actions import library as libraries
from .actions.look_at import look_at
from .actions.look_closer import look_closer


@queued_task(queue="arrivals", priority=10)
def look_at_element(element_id: int) -> None:
    """Find the facts of an element that has arrived."""
    try:
        look_at(element_id, decoder())
    except NotThere:
        return


@queued_task(queue="arrivals", priority=5)
def look_closer_at_element(element_id: int) -> None:
    """Find how its channels are used and which reading fits."""
    look_closer(element_id, decoder(), evaluator())


@app.periodic(cron="* * * * * */4")
@app.task(queue="care", queueing_lock="libraries", pass_context=False)
def watch_libraries(timestamp: int) -> None:
    """Look for what is new, gone or replaced in the registered folders."""
    libraries.watch_all()
