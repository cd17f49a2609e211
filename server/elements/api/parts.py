"""Joining, carrying channels along, parting in two."""

from __future__ import annotations

from config.errors import Problem
from django.db import transaction
from django.http import HttpRequest
from neatveil.errors import ValueRefused
from ninja import Router, Schema
from projects.access import project_for

from elements.actions.parts import carry, drop_part, matches, part_in_two, reconcile

from .shapes import ElementOut, Ends, element_for, element_out

router = Router()


class PartIn(Schema):
    """A channel of another element that is to be carried along; A makes it the alpha."""

    source: int
    name: str = "A"
    channel: str = ""
    offset: int = 0
    ends: Ends = "error"
    inverted: bool = False
    data: bool = False


class MatchOut(Schema):
    colour: int
    alpha: int
    remarks: list[str]
    blocked: bool


class PairIn(Schema):
    colour: int
    alpha: int


class JoinIn(Schema):
    pairs: list[PairIn]
    ends: Ends = "hold"


@router.post(
    "elements/{element_id}/parts", response={200: ElementOut, 404: Problem, 409: Problem, 422: Problem}
)
def carry_along(request: HttpRequest, element_id: int, body: PartIn) -> ElementOut:
    row, source = _two(request, element_id, body.source)
    changed = carry(
        row, source, request.user, name=body.name, channel=body.channel, offset=body.offset, ends=body.ends,
        inverted=body.inverted, data=body.data,
    )  # fmt: skip
    return element_out(changed)


@router.delete("elements/{element_id}/parts", response={200: ElementOut, 404: Problem, 409: Problem})
def carry_no_longer(request: HttpRequest, element_id: int, name: str) -> ElementOut:
    return element_out(drop_part(element_for(request, element_id), request.user, name))


@router.get("elements/{element_id}/parts/remarks", response={200: MatchOut, 404: Problem, 409: Problem})
def what_differs(request: HttpRequest, element_id: int, source: int) -> MatchOut:
    """What does not agree between an element and one it might carry, before anything is done."""
    row, other = _two(request, element_id, source)
    remarks, blocked = reconcile(row, other)
    return MatchOut(colour=row.pk, alpha=other.pk, remarks=remarks, blocked=blocked)


@router.post(
    "elements/{element_id}/part-in-two", response={200: list[ElementOut], 404: Problem, 409: Problem}
)
def split(request: HttpRequest, element_id: int) -> list[ElementOut]:
    """Its colour and its alpha as elements of their own."""
    return [element_out(r) for r in part_in_two(element_for(request, element_id))]


@router.get("projects/{project_id}/pairs", response={200: list[MatchOut], 404: Problem})
def pairs(request: HttpRequest, project_id: int) -> list[MatchOut]:
    """Colour and alpha that seem to belong together, by their names."""
    project = project_for(request.user, project_id)
    return [
        MatchOut(colour=m.colour.pk, alpha=m.alpha.pk, remarks=m.remarks, blocked=m.blocked)
        for m in matches(list(project.elements.all()))
    ]


@router.post(
    "projects/{project_id}/pairs/join",
    response={200: list[ElementOut], 404: Problem, 409: Problem, 422: Problem},
)
def join_pairs(request: HttpRequest, project_id: int, body: JoinIn) -> list[ElementOut]:
    """Join many pairs, all or none."""
    project_for(request.user, project_id)
    with transaction.atomic():
        joined = []
        for pair in body.pairs:
            row, source = _two(request, pair.colour, pair.alpha)
            joined.append(carry(row, source, request.user, name="A", ends=body.ends))
    return [element_out(r) for r in joined]


def _two(request: HttpRequest, one: int, other: int):  # type: ignore[no-untyped-def]
    row, source = element_for(request, one), element_for(request, other)
    if row.project_id != source.project_id:
        raise ValueRefused("Both must belong to one project.", where="source")
    return row, source
