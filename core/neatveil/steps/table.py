"""The table of steps, found by reading the files beside this one."""

from __future__ import annotations

import importlib
import pkgutil
from functools import reduce
from operator import or_
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field
from typing_extensions import TypeAliasType

from .base import Step as Step


def _find() -> dict[str, type[Step]]:
    found: dict[str, type[Step]] = {}
    package = __name__.rpartition(".")[0]
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name == "table":
            continue
        for value in vars(importlib.import_module(f"{package}.{module.name}")).values():
            # what other steps are built on names no kind
            if isinstance(value, type) and issubclass(value, Step) and value.title:
                found[value.model_fields["kind"].default] = value
    return found


STEPS: dict[str, type[Step]] = _find()

if TYPE_CHECKING:
    StepUnion = Step
else:
    _members: Any = reduce(or_, STEPS.values())
    # A discriminator needs at least two members; with one the model itself is the union.
    StepUnion = TypeAliasType(
        "StepUnion",
        Annotated[_members, Field(discriminator="kind")] if len(STEPS) > 1 else _members,
    )
