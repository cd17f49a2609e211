"""The table of what can be made, found by reading the files beside this one."""

from __future__ import annotations

import importlib
import pkgutil
from functools import reduce
from operator import or_
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field
from typing_extensions import TypeAliasType

from .base import Made


def _find() -> dict[str, type[Made]]:
    found: dict[str, type[Made]] = {}
    package = __name__.rpartition(".")[0]
    for module in sorted(m.name for m in pkgutil.iter_modules([str(Path(__file__).parent)])):
        if module == "table":
            continue
        for value in vars(importlib.import_module(f"{package}.{module}")).values():
            if isinstance(value, type) and issubclass(value, Made) and value.title:
                found[value.model_fields["kind"].default] = value
    return dict(sorted(found.items(), key=lambda row: (row[1].rank, row[0])))


MADE: dict[str, type[Made]] = _find()

if TYPE_CHECKING:
    MadeUnion = Made
else:
    _members: Any = reduce(or_, MADE.values())
    MadeUnion = TypeAliasType("MadeUnion", Annotated[_members, Field(discriminator="kind")])
