"""Version 2 takes the trade's words: aperture, shutter samples, firefly clamp, shadow catchers and others."""

from __future__ import annotations

from typing import Any

from ...versions import renamed, replaced, within

_FIELDS = {"spark_limit": "firefly_clamp", "catchers": "shadow_catchers"}


def upgrade(data: dict[str, Any]) -> dict[str, Any]:
    """A whole set-up."""
    setup = replaced(renamed(data, _FIELDS), "shadows", {"apart": "separate-pass"})
    setup = within(setup, "environment", lambda e: renamed(e, {"turn": "rotation"}))
    setup = within(setup, "shutter", lambda s: renamed(s, {"moments": "samples"}))
    setup = within(setup, "depth_of_field", lambda d: renamed(d, {"opening": "aperture"}))
    upgraded: dict[str, Any] = within(setup, "output", lambda o: renamed(o, {"form": "format"}))
    return upgraded
