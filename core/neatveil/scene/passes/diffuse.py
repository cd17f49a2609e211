"""Light that surfaces scatter evenly; a part of the beauty's sum."""

from __future__ import annotations

from .base import lighting_pass

PASS = lighting_pass("diffuse", "Light that surfaces scatter evenly.")
