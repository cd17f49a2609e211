"""The API of deliveries: one router a subject, together under one name."""

from ninja import Router

from . import orders  # noqa: F401 - adds its addresses to the deliveries' own
from .deliveries import router as deliveries
from .presets import router as presets

router = Router(tags=["deliveries"])
for part in (deliveries, presets):
    router.add_router("", part)

__all__ = ["router"]
