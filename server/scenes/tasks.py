"""Jobs about scenes."""

from __future__ import annotations

from config.errors import NotThere
from config.tasks import RETRY
from procrastinate.contrib.django import app

from .actions import bring_scene


@app.task(queue="arrivals", retry=RETRY)
def read_scene(scene_id: int) -> None:
    """Read a scene that has arrived."""
    try:
        bring_scene.read_arrived(scene_id)
    except NotThere:
        return
