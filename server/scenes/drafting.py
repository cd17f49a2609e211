"""Pictures of a scene while its set-up is worked on: one pass, coarse at once, finer at rest."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from neatveil.picture import Box, PremultipliedPicture, StoredPicture
from neatveil.scene.frames import camera_at, render_layer, seconds_of
from neatveil.scene.framing import bounds
from neatveil.scene.passes import pass_named
from neatveil.scene.placed import PlacedCamera, placed_like
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.setup import RenderSetup
from neatveil.view.pass_view import alike_everywhere, pass_picture

from .models import Scene
from .pictures import element_pictures
from .places import opened


@dataclass(frozen=True)
class Asked:
    """What is looked at: one pass of one frame, of a layer or (empty) of everything."""

    setup: RenderSetup
    frame: int
    name: str
    layer: str = ""
    level: int = 0
    rays: int = 1


def drafted(
    scene: Scene, asked: Asked, *, region: Box | None, as_stored: bool, cancelled: Callable[[], bool]
) -> PremultipliedPicture:
    """The pass at a size halved ``level`` times; of a region alone, where that looks as in the whole.

    Raises what is wrong with the set-up, and `Cancelled`.
    """
    part = alike_everywhere(asked.name) and asked.name != "glare" and asked.setup.glare is None
    picture, used = _rendered(scene, asked, region if part else None, cancelled)
    return pass_picture(picture, asked.name, used, as_stored=as_stored)


def values_at(scene: Scene, asked: Asked, x: int, y: int, cancelled: Callable[[], bool]) -> dict[str, float]:
    """Every channel of the pass at one pixel of the full size, as a file will hold it; none outside."""
    setup = asked.setup
    if not (0 <= x < setup.width and 0 <= y < setup.height):
        return {}
    window = Box(x, y, x + 1, y + 1)
    picture, _ = _rendered(scene, replace(asked, level=0), window, cancelled)
    return {c: float(p[0, 0]) for c, p in picture.planes.items()}


def camera_to_go_on_from(scene: Scene, setup: RenderSetup, frame: int) -> PlacedCamera:
    """A placed camera that sees what the scene's own camera sees at a frame."""
    core = opened(scene)
    by_scene = setup.model_copy(update={"placed_camera": None})
    camera, place = camera_at(core, by_scene, seconds_of(setup, frame))
    return placed_like(camera, place, bounds(core)[0])


def _rendered(
    scene: Scene, asked: Asked, window: Box | None, cancelled: Callable[[], bool]
) -> tuple[StoredPicture, RenderSetup]:
    core, setup = opened(scene), asked.setup
    camera_at(core, setup, 0.0)
    pass_named(asked.name)
    width, height = setup.width, setup.height
    for _ in range(asked.level):
        width, height = (width + 1) // 2, (height + 1) // 2
    changes = {
        "passes": (asked.name,), "samples": min(setup.samples, asked.rays), "noise": 0.0, "use": "final",
        "width": width, "height": height, "most_motion": setup.most_motion / 2**asked.level,
        "flattened": setup.flattened or not asked.layer,
    }  # fmt: skip
    used = setup.model_copy(update=changes)
    sheets = render_layers_of(core, used)
    layer = next((s for s in sheets if s.layer == asked.layer), sheets[0])
    pictures = element_pictures(scene.project_id, used)
    return render_layer(core, used, layer, asked.frame, pictures, cancelled, window), used
