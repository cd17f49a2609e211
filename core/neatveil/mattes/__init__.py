"""Mattes: grey pictures that say where something is kept (1), removed (0), or kept in part.

A matte is a short list of parts, each a channel of some layer or element, put together in order and refined.
"""

from .matte import Matte
from .part import Part

__all__ = ["Matte", "Part"]
