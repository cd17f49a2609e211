"""Elements: bringing in, facts, readings, pictures of their own."""

from __future__ import annotations

from typing import Any, Literal

from comps.pictures import SampleOut, Shown, shown_response
from config.engine import drawing, evaluator
from config.errors import Problem
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from neatveil.alpha import Reading
from neatveil.comp.rate import parse_rate
from neatveil.errors import ValueRefused
from neatveil.io import Facts
from neatveil.view import sample_element
from ninja import Router, Schema, Status
from projects.access import project_for, row_for

from .actions.finish_arrival import finish_arrival
from .actions.receive_file import receive_file
from .actions.remove_element import remove_element
from .actions.set_reading import set_reading, undo_reading
from .models import Arrival, Element
from .pictures import card_response
from .resolve import core_element, key

router = Router(tags=["elements"])


class ElementOut(Schema):
    id: int
    key: str
    name: str
    state: Literal["arriving", "ready", "refused"]
    problem: Problem | None
    facts: Facts | None
    reading: Reading
    reading_words: str
    reading_set: bool
    encoding: Literal["linear", "srgb", "rec709"]
    rate: str | None
    changes: int


class ArrivalOut(Schema):
    id: int


class FileOut(Schema):
    name: str
    bytes: int


class ReadingIn(Schema):
    elements: list[int]
    reading: Reading | None = None
    encoding: Literal["linear", "srgb", "rec709"] | None = None
    rate: str | None = None


class RenameIn(Schema):
    name: str


def _out(row: Element, changes: int | None = None) -> ElementOut:
    reading = Reading.model_validate(row.reading)
    facts = Facts.model_validate(row.facts) if row.facts else None
    count = row.changes.count() if changes is None else changes
    return ElementOut(
        id=row.pk, key=key(row), name=row.name, state=row.state, problem=row.problem, facts=facts,
        reading=reading, reading_words=reading.words(), reading_set=row.reading_set,
        encoding=row.encoding, rate=row.rate or (facts.rate if facts else None), changes=count,
    )  # fmt: skip


@router.get("projects/{project_id}/elements", response={200: list[ElementOut], 404: Problem})
def list_elements(request: HttpRequest, project_id: int) -> list[ElementOut]:
    project = project_for(request.user, project_id)
    rows = project.elements.annotate(change_count=Count("changes"))
    return [_out(r, r.change_count) for r in rows]


@router.post("projects/{project_id}/arrivals", response={201: ArrivalOut, 404: Problem})
def start_arrival(request: HttpRequest, project_id: int) -> Status[ArrivalOut]:
    """Start bringing in a number of files that belong together."""
    project = project_for(request.user, project_id)
    arrival = Arrival.objects.create(project=project, person=request.user)
    return Status(201, ArrivalOut(id=arrival.pk))


@router.put("arrivals/{arrival_id}/files", response={200: FileOut, 404: Problem, 422: Problem, 507: Problem})
def put_file(request: HttpRequest, arrival_id: int, name: str) -> FileOut:
    """The file's bytes as the request's body."""
    arrival = row_for(request.user, Arrival, arrival_id, "arrival")
    if arrival.finished:
        raise ValueRefused("This arrival is finished.", advice="Start another one.")
    return FileOut(name=name, bytes=receive_file(arrival, name, request))


@router.post("arrivals/{arrival_id}/finish", response={200: list[ElementOut], 404: Problem, 422: Problem})
def finish(request: HttpRequest, arrival_id: int) -> list[ElementOut]:
    """All files have come: they become elements."""
    arrival = row_for(request.user, Arrival, arrival_id, "arrival")
    return [_out(r) for r in finish_arrival(arrival)]


@router.post("elements/reading", response={200: list[ElementOut], 404: Problem, 422: Problem})
def change_reading(request: HttpRequest, body: ReadingIn) -> list[ElementOut]:
    """Set reading, encoding or rate of one or many elements; what is left out stays."""
    rows = [row_for(request.user, Element, i, "element") for i in body.elements]
    if body.rate:
        try:
            parse_rate(body.rate)
        except ValueError as error:
            raise ValueRefused(str(error), where="rate") from error
    changed = set_reading(rows, request.user, reading=body.reading, encoding=body.encoding, rate=body.rate)
    return [_out(r) for r in changed]


@router.post("elements/{element_id}/reading/undo", response={200: ElementOut, 404: Problem, 409: Problem})
def take_back_reading(request: HttpRequest, element_id: int) -> ElementOut:
    return _out(undo_reading(row_for(request.user, Element, element_id, "element")))


@router.patch("elements/{element_id}", response={200: ElementOut, 404: Problem, 422: Problem})
def rename_element(request: HttpRequest, element_id: int, body: RenameIn) -> ElementOut:
    row = row_for(request.user, Element, element_id, "element")
    if not 0 < len(body.name.strip()) <= 300:
        raise ValueRefused("A name has 1 to 300 characters.", where="name")
    row.name = body.name.strip()
    row.save(update_fields=["name"])
    return _out(row)


@router.delete("elements/{element_id}", response={204: None, 404: Problem, 409: Problem})
def delete_element(request: HttpRequest, element_id: int) -> Status[None]:
    remove_element(row_for(request.user, Element, element_id, "element"))
    return Status(204, None)


class ElementShown(Shown):
    """A look at an element, perhaps with a draft of its reading."""

    reading: Reading | None = None
    encoding: Literal["linear", "srgb", "rec709"] | None = None


def _drawable(request: HttpRequest, element_id: int, changes: dict[str, Any]) -> Any:
    row = row_for(request.user, Element, element_id, "element")
    return core_element(row, {k: v for k, v in changes.items() if v is not None})


@router.post("elements/{element_id}/picture", response={404: Problem, 422: Problem})
def element_picture(request: HttpRequest, element_id: int, body: ElementShown) -> HttpResponse:
    """The element by itself: JPEG, or raw RGBA bytes where exact."""
    changes = {"reading": body.reading, "encoding": body.encoding}
    element = _drawable(request, element_id, changes)

    with drawing(body.viewer, body.turn):
        return shown_response(body, evaluator().source(element, body.frame, body.level))


class ElementPoint(ElementShown):
    x: int
    y: int


@router.post("elements/{element_id}/values", response={200: SampleOut, 404: Problem, 422: Problem})
def element_values(request: HttpRequest, element_id: int, body: ElementPoint) -> SampleOut:
    """Values at one pixel of the element, full size: as stored and as read."""
    changes = {"reading": body.reading, "encoding": body.encoding}
    element = _drawable(request, element_id, changes)
    with drawing(body.viewer and f"{body.viewer}-values", body.turn):
        got = sample_element(evaluator(), element, body.frame, body.x, body.y)
    return SampleOut.of(got)


@router.get("elements/{element_id}/card", response={404: Problem, 422: Problem})
def element_card(
    request: HttpRequest,
    element_id: int,
    part: Literal["colour", "alpha"] = "colour",
    frame: int | None = None,
) -> HttpResponse:
    """A small JPEG for cards, of the colour over grey checks or of the alpha."""
    element = _drawable(request, element_id, {})

    number = (element.first + element.last) // 2 if frame is None else frame
    with drawing("", 0):
        return card_response(evaluator(), element, number, part)
