"""The API of elements: one router a subject, together under one name."""

from ninja import Router

from .arrivals import router as arrivals
from .colour import router as colour
from .elements import router as elements
from .fonts import router as fonts
from .libraries import router as libraries
from .looking import router as looking
from .parts import router as parts
from .rules import router as rules
from .transcodes import router as transcodes
from .trials import router as trials

router = Router(tags=["elements"])
for part in (elements, arrivals, libraries, colour, fonts, looking, parts, transcodes, rules, trials):
    router.add_router("", part)

__all__ = ["router"]
