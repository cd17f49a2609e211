"""Jobs about scenes."""

from __future__ import annotations

from config.errors import NotThere
from config.tasks import queued_task

from .actions import bring_scene


@queued_task(queue="arrivals")
def read_scene(scene_id: int) -> None:
    """Read a scene that has arrived."""
    try:
        bring_scene.read_arrived(scene_id)
    except NotThere:
        return
