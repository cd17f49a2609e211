"""The sky, where the camera sees it; a part of the beauty's sum."""

from __future__ import annotations

from .base import lighting_pass

PASS = lighting_pass("environment", "The sky, where the camera sees it.", "sky")
