"""The table of passes: every module of this folder that has a ``PASS``."""

from __future__ import annotations

import pkgutil
from importlib import import_module
from pathlib import Path

from ...errors import unknown_name
from .base import Pass

PASSES: dict[str, Pass] = {}
for _row in pkgutil.iter_modules([str(Path(__file__).parent)]):
    _found = (
        getattr(import_module(f"{__package__}.{_row.name}"), "PASS", None) if _row.name != "table" else None
    )
    if isinstance(_found, Pass):
        PASSES[_found.name] = _found


def pass_named(name: str) -> Pass:
    """The pass of that name; `NameUnknown` with the valid names otherwise."""
    try:
        return PASSES[name]
    except KeyError:
        raise unknown_name("pass", name, list(PASSES)) from None
