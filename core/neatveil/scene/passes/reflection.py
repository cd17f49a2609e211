"""Light that surfaces mirror; a part of the beauty's sum."""

from __future__ import annotations

from .base import lighting_pass

PASS = lighting_pass("reflection", "Light that surfaces mirror.")
