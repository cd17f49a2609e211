"""Queueing what is found out about an element: its facts at once, the use of its channels after that."""

from __future__ import annotations

from config.queueing import put_in_queue


def queue_look(element_id: int) -> None:
    put_in_queue("elements.tasks.look_at_element", "arrivals", priority=10, element_id=element_id)


def queue_closer_look(element_id: int) -> None:
    # before renders: it is short, and says which reading is wrong
    put_in_queue("elements.tasks.look_closer_at_element", "arrivals", priority=5, element_id=element_id)
