"""The table of parts: every module of this folder that has a subclass of `Part` with a title."""

from __future__ import annotations

import importlib
import pkgutil
from functools import reduce
from operator import or_
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Discriminator, Tag

from .part import Part


def _find() -> dict[str, type[Part]]:
    package = __name__.rpartition(".")[0]
    found = {}
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name in {"kinds", "matte"}:  # which stand on this table
            continue
        for value in vars(importlib.import_module(f"{package}.{module.name}")).values():
            # what other parts are built on has no title
            if isinstance(value, type) and issubclass(value, Part) and value.title:
                found[value.model_fields["kind"].default] = value
    return found


PARTS: dict[str, type[Part]] = _find()


def _kind(value: Any) -> str:
    """A part without a kind is a channel: documents had no other once."""
    return str(value.get("kind", "channel") if isinstance(value, dict) else getattr(value, "kind", ""))


if TYPE_CHECKING:
    PartUnion = Part
else:
    PartUnion = Annotated[
        reduce(or_, [Annotated[part, Tag(kind)] for kind, part in PARTS.items()]), Discriminator(_kind)
    ]
