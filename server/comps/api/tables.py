"""What the recipe's controls are made from."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from neatveil.channels.pick import PICKS
from neatveil.comp import Transform
from neatveil.made import MADE
from neatveil.mattes import PARTS, Matte
from neatveil.merge import OPERATORS
from neatveil.steps.table import STEPS
from neatveil.steps.through import Through
from ninja import Router, Schema

router = Router()


class OperatorOut(Schema):
    name: str
    family: str
    help: str


class StepOut(Schema):
    """``fresh``: what a new one starts with where that is not the default."""

    kind: str
    title: str
    help: str
    family: str
    fields: dict[str, Any]
    fresh: dict[str, Any]


class MadeOut(Schema):
    """What a layer can be made of here. ``fresh``: as of a step."""

    kind: str
    title: str
    help: str
    fields: dict[str, Any]
    fresh: dict[str, Any]


class PartKindOut(Schema):
    """A kind of matte part: what the page has no controls of its own for gets them from its fields."""

    kind: str
    title: str
    fields: dict[str, Any]


class TablesOut(Schema):
    operators: list[OperatorOut]
    steps: list[StepOut]
    made: list[MadeOut]
    transform: dict[str, Any]
    through: dict[str, Any]
    matte: dict[str, Any]
    parts: list[PartKindOut]
    picks: list[str]


@router.get("tables", response=TablesOut)
def tables(request: HttpRequest) -> TablesOut:
    """Operators and steps with their parameters' titles, units, ranges and help."""
    steps = [
        StepOut(kind=kind, title=s.title, help=s.help, family=s.family, fields=_fields(s), fresh=s.fresh)
        for kind, s in STEPS.items()
    ]
    made = [
        MadeOut(kind=kind, title=m.title, help=m.help, fields=_fields(m), fresh=m.fresh)
        for kind, m in MADE.items()
    ]
    return TablesOut(
        operators=[OperatorOut(name=o.name, family=o.family, help=o.help) for o in OPERATORS.values()],
        steps=steps, made=made, transform=_fields(Transform), through=_fields(Through), matte=_fields(Matte),
        parts=[PartKindOut(kind=k, title=p.title, fields=_fields(p)) for k, p in PARTS.items()],
        picks=list(PICKS),
    )  # fmt: skip


def _fields(model: Any) -> dict[str, Any]:
    """Properties by name; those that say nothing of themselves have no default in the schema."""
    schema: dict[str, Any] = model.model_json_schema()["properties"]
    defaults = {n: f.get_default(call_default_factory=True) for n, f in model.model_fields.items()}
    dumped = model.model_construct(**defaults).model_dump(mode="json")
    return {name: {**row, "default": dumped.get(name)} for name, row in schema.items()}
