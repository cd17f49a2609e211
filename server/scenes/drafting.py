"""Pictures of a scene while its set-up is worked on: one pass, coarse at once, finer at rest."""

from __future__ import annotations

from collections.abc import Callable

from neatveil.picture import Box, PremultipliedPicture
from neatveil.scene.frames import camera_node, render_sheet
from neatveil.scene.passes import pass_named
from neatveil.scene.setup import RenderSetup
from neatveil.scene.sheets import sheets_of
from neatveil.view.pass_view import alike_everywhere, pass_picture

from .models import Scene
from .pictures import element_pictures
from .places import opened


def drafted(
    scene: Scene, setup: RenderSetup, frame: int, name: str, *, layer: str, level: int,
    region: Box | None, rays: int, as_stored: bool, cancelled: Callable[[], bool],
) -> PremultipliedPicture:  # fmt: skip
    """One pass of one frame at a size halved ``level`` times, of a layer or of everything; perhaps a part.

    Raises what is wrong with the set-up, and `Cancelled`.
    """
    core = opened(scene)
    camera_node(core, setup)
    pass_named(name)
    width, height = setup.width, setup.height
    for _ in range(level):
        width, height = (width + 1) // 2, (height + 1) // 2
    changes = {
        "passes": (name,), "samples": min(setup.samples, rays), "noise": 0.0, "use": "final",
        "width": width, "height": height,
        "most_motion": setup.most_motion / 2**level,
        "flattened": setup.flattened or not layer,
    }  # fmt: skip
    used = setup.model_copy(update=changes)
    sheet = next((s for s in sheets_of(core, used) if s.layer == layer), sheets_of(core, used)[0])
    pictures = element_pictures(scene.project_id, used)
    # a part alone is drawn alone, where it looks as it does in the whole
    part = alike_everywhere(name) and name != "glare" and used.glare is None
    picture = render_sheet(core, used, sheet, frame, pictures, cancelled, region if part else None)
    return pass_picture(picture, name, used, as_stored=as_stored)
