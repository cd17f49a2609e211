"""The table of steps, found by reading the files beside this one."""

from __future__ import annotations

import importlib
import pkgutil
from functools import reduce
from operator import or_
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import (
    Discriminator,
    Tag,
    ValidationError,
    ValidationInfo,
    ValidatorFunctionWrapHandler,
    WrapValidator,
)
from typing_extensions import TypeAliasType

from .base import Step as Step
from .foreign import ForeignStep


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
ForeignStep.known = list(STEPS)


def _tag(given: Any) -> str:
    kind = given.get("kind") if isinstance(given, dict) else getattr(given, "kind", None)
    if not isinstance(kind, str):
        return _FOREIGN
    known = isinstance(given, STEPS[kind]) if not isinstance(given, dict) and kind in STEPS else kind in STEPS
    return str(kind) if known else _FOREIGN


def _or_foreign(given: Any, check: ValidatorFunctionWrapHandler, info: ValidationInfo) -> Any:
    """Where a document is read as far as it is known, a step that is not valid is kept and not done."""
    try:
        return check(given)
    except ValidationError:
        if not (info.context or {}).get("lenient") or not isinstance(given, dict) or "kind" not in given:
            raise
        return ForeignStep.model_validate(given)


_FOREIGN = "foreign"

if TYPE_CHECKING:
    StepUnion = Step
else:
    _tagged = [Annotated[step, Tag(kind)] for kind, step in STEPS.items()]
    _members: Any = reduce(or_, [*_tagged, Annotated[ForeignStep, Tag(_FOREIGN)]])
    StepUnion = TypeAliasType(
        "StepUnion", Annotated[_members, Discriminator(_tag), WrapValidator(_or_foreign)]
    )
