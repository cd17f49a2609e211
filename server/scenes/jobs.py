"""Jobs about scenes and renders."""

from __future__ import annotations

from config.errors import NotThere
from config.jobs import RETRY
from procrastinate.contrib.django import app

from .actions import bring_scene
from .actions import render_piece as rendering


@app.task(queue="arrivals", retry=RETRY)
def read_scene(scene_id: int) -> None:
    """Read a scene that has arrived."""
    try:
        bring_scene.read_arrived(scene_id)
    except NotThere:
        return


@app.task(queue="renders", retry=RETRY)
def render_piece(piece_id: int, project_id: int = 0) -> None:
    """Render one piece of a range."""
    rendering.render_piece(piece_id)
