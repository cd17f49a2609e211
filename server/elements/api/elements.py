"""Elements: facts, readings, names, replacing."""

from __future__ import annotations

from typing import Any, Literal

from config.errors import Problem
from django.db.models import Count, Q
from django.http import HttpRequest, HttpResponse
from neatveil.alpha import Reading
from neatveil.comp.elements import Encoding
from neatveil.comp.rate import parse_rate
from neatveil.errors import ValueRefused
from ninja import Router, Schema, Status
from projects.access import project_for
from pydantic import TypeAdapter

from elements.actions.bring_over import bring_over
from elements.actions.label_elements import label_elements
from elements.actions.library import accept
from elements.actions.remove_element import remove_element, remove_elements, unused_in
from elements.actions.set_reading import set_holds, set_reading, undo_reading
from elements.actions.take_over import take_over
from elements.models import Element
from elements.resolve import key

from .shapes import ElementOut, Gaps, element_for, element_out, elements_for

router = Router()


class ReadingIn(Schema):
    elements: list[int]
    reading: Reading | None = None
    encoding: Encoding | None = None
    rate: str | None = None
    gaps: Gaps | None = None
    kinds: dict[str, Literal["colour", "data"]] | None = None


class HoldsIn(Schema):
    """A kind of data, such as depth or uv; empty for colour."""

    holds: str


class RenameIn(Schema):
    name: str


class RemoveIn(Schema):
    elements: list[int]


class LabelIn(Schema):
    elements: list[int]
    label: str


class BroughtOut(Schema):
    """An element of another project by its number, and the key of what stands for it."""

    element: int
    key: str


class TakeOverIn(Schema):
    by: int


@router.get("projects/{project_id}/elements", response={200: list[ElementOut], 404: Problem})
def list_elements(request: HttpRequest, project_id: int) -> HttpResponse:
    project = project_for(request.user, project_id)
    return _answer(project.elements)


#: Changes of a reading that can be taken back.
_CHANGES = Count("changes", filter=Q(changes__undone=None))
_ROWS = TypeAdapter(list[ElementOut])


def _answer(rows: Any) -> HttpResponse:
    """A query's elements; written out here, since the framework would check thousands of rows once more."""
    counted = rows.annotate(change_count=_CHANGES).order_by("id")
    data = _ROWS.dump_json([element_out(r, r.change_count) for r in counted])
    return HttpResponse(data, content_type="application/json")


@router.get("projects/{project_id}/elements/unused", response={200: list[int], 404: Problem})
def unused_elements(request: HttpRequest, project_id: int) -> list[int]:
    """Numbers of the elements that no comp and no other element uses."""
    return [row.pk for row in unused_in(project_for(request.user, project_id).pk)]


@router.post("elements/remove", response={204: None, 404: Problem, 409: Problem})
def remove_many(request: HttpRequest, body: RemoveIn) -> Status[None]:
    """Remove all of them, with files that do not lie in a registered folder; none where one is used."""
    remove_elements(elements_for(request, body.elements))
    return Status(204, None)


@router.post(
    "projects/{project_id}/elements/bring-over", response={200: list[BroughtOut], 404: Problem, 409: Problem}
)
def bring_elements_over(request: HttpRequest, project_id: int, body: RemoveIn) -> list[BroughtOut]:
    """The project's elements for those of another project, which the same person sees: the same files.

    404 where one of either is not there for the person; 409 that names what cannot be brought, and why.
    """
    project = project_for(request.user, project_id)
    brought = bring_over(elements_for(request, body.elements), project)
    return [BroughtOut(element=number, key=key(row)) for number, row in brought.items()]


@router.post("elements/label", response={204: None, 404: Problem, 422: Problem})
def give_label(request: HttpRequest, body: LabelIn) -> Status[None]:
    """Gather elements under a word, or under none."""
    label_elements(elements_for(request, body.elements), body.label)
    return Status(204, None)


@router.post("elements/reading", response={200: list[ElementOut], 404: Problem, 422: Problem})
def change_reading(request: HttpRequest, body: ReadingIn) -> HttpResponse:
    """Set reading, encoding, rate, gaps or kinds of one or many elements; what is left out stays."""
    rows = elements_for(request, body.elements)
    if body.rate:
        try:
            parse_rate(body.rate)
        except ValueError as error:
            raise ValueRefused(str(error), where="rate") from error
    changed = set_reading(
        rows, request.user, reading=body.reading, encoding=body.encoding, rate=body.rate, gaps=body.gaps,
        kinds=dict(body.kinds) if body.kinds is not None else None,
    )  # fmt: skip
    return _answer(Element.objects.filter(pk__in=[r.pk for r in changed]))


@router.post(
    "elements/{element_id}/holds", response={200: ElementOut, 404: Problem, 409: Problem, 422: Problem}
)
def change_holds(request: HttpRequest, element_id: int, body: HoldsIn) -> ElementOut:
    """Say what the element holds: colour, or data that is never converted."""
    return element_out(set_holds(element_for(request, element_id), request.user, body.holds))


@router.post("elements/{element_id}/reading/undo", response={200: ElementOut, 404: Problem, 409: Problem})
def take_back_reading(request: HttpRequest, element_id: int) -> ElementOut:
    return element_out(undo_reading(element_for(request, element_id)))


@router.patch("elements/{element_id}", response={200: ElementOut, 404: Problem, 422: Problem})
def rename_element(request: HttpRequest, element_id: int, body: RenameIn) -> ElementOut:
    row = element_for(request, element_id)
    if not 0 < len(body.name.strip()) <= 300:
        raise ValueRefused("A name has 1 to 300 characters.", where="name")
    row.name = body.name.strip()
    row.save(update_fields=["name"])
    return element_out(row)


@router.delete("elements/{element_id}", response={204: None, 404: Problem, 409: Problem})
def delete_element(request: HttpRequest, element_id: int) -> Status[None]:
    remove_element(element_for(request, element_id))
    return Status(204, None)


@router.post("elements/{element_id}/accept", response={200: ElementOut, 404: Problem, 409: Problem})
def accept_replaced(request: HttpRequest, element_id: int) -> ElementOut:
    """Use the file that lies under the element's name now."""
    return element_out(accept(element_for(request, element_id)))


@router.post("elements/{element_id}/take-over", response={200: ElementOut, 404: Problem, 409: Problem})
def put_in_place(request: HttpRequest, element_id: int, body: TakeOverIn) -> ElementOut:
    """Every use of the element gets the files of another one, which gets its own."""
    row, other = element_for(request, element_id), element_for(request, body.by)
    if row.project_id != other.project_id:
        raise ValueRefused("Both must belong to one project.", where="by")
    return element_out(take_over(row, other))
