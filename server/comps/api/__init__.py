"""The API of comps: one router a subject, together under one name."""

from ninja import Router

from .cameras import router as cameras
from .canvases import router as canvases
from .comps import router as comps
from .edges import router as edges
from .lists import router as lists
from .measuring import router as measuring
from .pictures import router as pictures
from .pointing import router as pointing
from .presets import router as presets
from .states import router as states
from .tables import router as tables

router = Router(tags=["comps"])
for part in (comps, cameras, canvases, pictures, measuring, pointing, lists, edges, states, presets, tables):
    router.add_router("", part)

__all__ = ["router"]
