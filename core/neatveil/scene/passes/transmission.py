"""Light of the scene that comes through glass; a part of the beauty's sum."""

from __future__ import annotations

from .base import lighting_pass

PASS = lighting_pass("transmission", "Light of the scene that comes through glass.")
