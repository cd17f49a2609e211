"""Comp documents of older versions. A new version adds a file here and a row to `UPGRADES`."""

from __future__ import annotations

from typing import Any

from ...versions import Upgrade, upgrade_document
from . import v1_to_v2, v2_to_v3

#: By the version that they begin with.
UPGRADES: dict[int, Upgrade] = {1: v1_to_v2.upgrade, 2: v2_to_v3.upgrade}
#: The same for a list of steps that is kept by itself, as a preset is.
STEP_UPGRADES: dict[int, Upgrade] = {1: v1_to_v2.upgrade_step}


def upgrade_comp(data: Any) -> Any:
    """A comp document in today's version; what is none, or is newer, unchanged."""
    done = upgrade_document(data, "neatveil", UPGRADES)
    if isinstance(done, dict) and isinstance(comps := done.get("comps"), dict):
        return {**done, "comps": {key: upgrade_comp(comp) for key, comp in comps.items()}}
    return done


def upgrade_steps(steps: Any, version: int) -> Any:
    """Steps that a document of that version held, as today's hold them."""
    if not isinstance(steps, list):
        return steps
    for since in sorted(v for v in STEP_UPGRADES if v >= version):
        steps = [STEP_UPGRADES[since](s) for s in steps]
    return steps
