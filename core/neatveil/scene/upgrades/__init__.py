"""Render set-ups of older versions. A new version adds a file here and a row to `UPGRADES`."""

from __future__ import annotations

from typing import Any

from ...versions import Upgrade, upgrade_document
from . import v1_to_v2

#: By the version that they begin with.
UPGRADES: dict[int, Upgrade] = {1: v1_to_v2.upgrade}


def upgrade_setup(data: Any) -> Any:
    """A render set-up in today's version; what is none, or is newer, unchanged."""
    return upgrade_document(data, "neatveil_scene", UPGRADES)
