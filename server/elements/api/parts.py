"""Joining, carrying channels along, parting in two."""

from __future__ import annotations

from config.errors import Conflict, Problem
from django.db import transaction
from django.http import HttpRequest
from neatveil.errors import ValueRefused
from ninja import Router, Schema
from projects.access import project_for

from elements.actions.parts import Carrying, Match, carry, drop_part, matches, part_in_two, reconcile
from elements.models import Element

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


class RemarksOut(Schema):
    """What does not agree between two elements, and whether that forbids joining them."""

    remarks: list[str]
    blocked: bool


class MatchOut(RemarksOut):
    """``source`` seems to hold alpha or data of ``element``, which would carry it by these ``names``."""

    element: int
    source: int
    holds: str
    names: list[str]


class PairIn(Schema):
    element: int
    source: int


class JoinIn(Schema):
    pairs: list[PairIn]
    ends: Ends = "hold"


@router.post(
    "elements/{element_id}/parts", response={200: ElementOut, 404: Problem, 409: Problem, 422: Problem}
)
def carry_along(request: HttpRequest, element_id: int, body: PartIn) -> ElementOut:
    row, source = _two(request, element_id, body.source)
    part = Carrying(**body.model_dump(exclude={"source"}))
    return element_out(carry(row, source, request.user, [part]))


@router.delete("elements/{element_id}/parts", response={200: ElementOut, 404: Problem, 409: Problem})
def carry_no_longer(request: HttpRequest, element_id: int, name: str) -> ElementOut:
    return element_out(drop_part(element_for(request, element_id), request.user, name))


@router.get("elements/{element_id}/parts/remarks", response={200: RemarksOut, 404: Problem, 409: Problem})
def what_differs(request: HttpRequest, element_id: int, source: int) -> RemarksOut:
    """What does not agree between an element and one it might carry, before anything is done."""
    row, other = _two(request, element_id, source)
    remarks, blocked = reconcile(row, other)
    return RemarksOut(remarks=remarks, blocked=blocked)


@router.post(
    "elements/{element_id}/part-in-two", response={200: list[ElementOut], 404: Problem, 409: Problem}
)
def split(request: HttpRequest, element_id: int) -> list[ElementOut]:
    """Its colour and its alpha as elements of their own."""
    return [element_out(r) for r in part_in_two(element_for(request, element_id))]


@router.get("projects/{project_id}/pairs", response={200: list[MatchOut], 404: Problem})
def pairs(request: HttpRequest, project_id: int) -> list[MatchOut]:
    """Colour, alpha and data that seem to belong together, by their names."""
    project = project_for(request.user, project_id)
    return [_match_out(m) for m in matches(list(project.elements.all()))]


def _match_out(m: Match) -> MatchOut:
    return MatchOut(
        element=m.element.pk, source=m.source.pk, holds=m.holds, names=[n for n, _ in m.channels],
        remarks=m.remarks, blocked=m.blocked,
    )  # fmt: skip


@router.post(
    "projects/{project_id}/pairs/join",
    response={200: list[ElementOut], 404: Problem, 409: Problem, 422: Problem},
)
def join_pairs(request: HttpRequest, project_id: int, body: JoinIn) -> list[ElementOut]:
    """Join many pairs, all or none: each must be one that was proposed."""
    project = project_for(request.user, project_id)
    with transaction.atomic():
        proposed = {(m.element.pk, m.source.pk): m for m in matches(list(project.elements.all()))}
        joined = []
        for pair in body.pairs:
            _two(request, pair.element, pair.source)
            match = proposed.get((pair.element, pair.source))
            if match is None:
                raise Conflict("The two are joined already, or do not match any more.", advice="Look again.")
            parts = [Carrying(n, c, ends=body.ends, data=n != "A") for n, c in match.channels]
            # an element may take several of them in one go
            row = Element.objects.get(pk=pair.element)
            joined.append(carry(row, match.source, request.user, parts))
    return [element_out(r) for r in joined]


def _two(request: HttpRequest, one: int, other: int):  # type: ignore[no-untyped-def]
    row, source = element_for(request, one), element_for(request, other)
    if row.project_id != source.project_id:
        raise ValueRefused("Both must belong to one project.", where="source")
    return row, source
