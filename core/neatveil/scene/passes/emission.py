"""Light that surfaces give off by themselves; a part of the beauty's sum."""

from __future__ import annotations

from .base import lighting_pass

PASS = lighting_pass("emission", "Light that surfaces give off by themselves.")
