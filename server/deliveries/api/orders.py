"""Ordering deliveries, and looking at an order before it is given."""

from __future__ import annotations

from typing import Any, Literal

from comps.models import Comp
from config.errors import NotThere, Problem
from config.trouble import as_problem
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from elements.models import Element
from neatveil.delivery import Advice, DeliveryForm, Take
from neatveil.errors import NeatVeilError, describe
from ninja import Field, Schema, Status
from projects.access import project_for

from deliveries.actions.check_order import advice_of, png_of
from deliveries.actions.order_delivery import order_deliveries
from deliveries.orders import Order, Planned, already_there, planned, takes_of

# the same router: an address belongs to one, whatever is done there
from .deliveries import DeliveryOut, delivery_out, router

#: Names that are told of what would be written.
SHOWN_NAMES = 12


class OrderIn(Schema):
    """Comps and elements go out one after another, each in every format and form.

    ``formats``: ready ones by their names; ``forms``: in full. ``rows``: of the list of the one comp.
    ``folder`` and ``name`` may hold tokens in braces. ``server``: one of the server's folders, see
    `list_folders`; empty for the project's own.
    """

    comps: list[int] = Field([], max_length=1000)
    elements: list[int] = Field([], max_length=1000)
    rows: list[int] = Field([], max_length=10_000)
    take: Take = Take()
    formats: list[str] = Field([], max_length=50)
    forms: list[DeliveryForm] = Field([], max_length=50)
    server: str = Field("", max_length=900)
    folder: str = Field(max_length=200)
    name: str = Field(max_length=200)
    loss_accepted: bool = Field(False, description="Order it although the format drops some of the comp.")


class OrderedNameOut(Schema):
    """One delivery that would be made."""

    folder: str
    first: str = Field(description="Its first file's name.")
    last: str
    count: int = Field(description="Its files.")
    words: str = Field(description="What is taken that is not the whole comp as it stands.")


class OrderCheckOut(Schema):
    names: list[OrderedNameOut] = Field(description="The first of what would be written.")
    count: int
    frames: int = Field(description="Frames of all of them.")
    taken: list[str] = Field(description="Names of the first that are there already.")
    advice: list[Advice]
    problem: Problem | None = Field(description="Why it cannot be ordered as it stands.")


class DeliveryFolderOut(Schema):
    """A folder of the server that deliveries may go to."""

    path: str
    there: bool = Field(description="Whether it can be reached now.")


@router.get("delivery-folders", response=list[DeliveryFolderOut])
def list_folders(request: HttpRequest) -> list[DeliveryFolderOut]:
    """The server's folders that deliveries may go to; each project has a folder of its own in them."""
    return [DeliveryFolderOut(path=str(p), there=p.is_dir()) for p in settings.DELIVERY_FOLDERS]


@router.post(
    "projects/{project_id}/deliveries",
    response={201: list[DeliveryOut], 404: Problem, 409: Problem, 422: Problem},
)
def order(request: HttpRequest, project_id: int, body: OrderIn) -> Status[list[DeliveryOut]]:
    """Queue deliveries of comps and elements as they are now; all of them or none."""
    rows = order_deliveries(_order(request, project_id, body), request.user)
    return Status(201, [delivery_out(r) for r in rows])


@router.post(
    "projects/{project_id}/deliveries/check", response={200: OrderCheckOut, 404: Problem, 422: Problem}
)
def check(request: HttpRequest, project_id: int, body: OrderIn, look: bool = False) -> OrderCheckOut:
    """What an order would write, and what its forms cannot hold; ``look``: of its frames too."""
    wanted = _order(request, project_id, body)
    rows: list[Planned] = []
    advice: list[Advice] = []
    problem: NeatVeilError | None = None
    try:
        takes = takes_of(wanted)
        advice = advice_of(wanted, takes, look=look)
        rows = planned(wanted, takes)
    except NeatVeilError as error:
        problem = as_problem(error, "Looking at the order")
    return OrderCheckOut(
        names=[_name(r) for r in rows[:SHOWN_NAMES]], count=len(rows),
        frames=sum(len(r.taken.frames) for r in rows),
        taken=already_there(project_id, rows)[:SHOWN_NAMES], advice=advice,
        problem=None if problem is None else Problem.model_validate(describe(problem)),
    )  # fmt: skip


@router.post("projects/{project_id}/deliveries/picture", response={404: Problem, 422: Problem})
def picture(
    request: HttpRequest, project_id: int, body: OrderIn,
    shown: Literal["checks", "ignored", "bands", "dithered"] = "checks",
) -> HttpResponse:  # fmt: skip
    """A small PNG of the middle frame as its first form writes it.

    Over grey checks, or as who ignores alpha shows it; or the part with the flattest gradient, its contrast
    raised, as whole codes or dithered.
    """
    return HttpResponse(png_of(_order(request, project_id, body), shown), content_type="image/png")


def _name(row: Planned) -> OrderedNameOut:
    files = row.target.files(row.format, row.taken.numbers)
    return OrderedNameOut(
        folder=row.folder, first=files[0].name, last=files[-1].name, count=len(files),
        words=row.taken.in_words(),
    )  # fmt: skip


def _order(request: HttpRequest, project_id: int, body: OrderIn) -> Order:
    project = project_for(request.user, project_id)
    return Order(
        project=project, comps=_rows(Comp, project_id, body.comps, "comp"),
        elements=_rows(Element, project_id, body.elements, "element"),
        rows=tuple(dict.fromkeys(body.rows)), take=body.take, forms=[*body.formats, *body.forms],
        server=body.server, folder=body.folder, name=body.name, loss_accepted=body.loss_accepted,
    )  # fmt: skip


def _rows(model: Any, project_id: int, numbers: list[int], kind: str) -> list[Any]:
    """In the order in which they were named, each once; `NotThere` where one is not the project's."""
    known = {r.pk: r for r in model.objects.filter(project_id=project_id, pk__in=numbers)}
    if any(n not in known for n in numbers):
        raise NotThere(f"This {kind} is not there.")
    return [known[n] for n in dict.fromkeys(numbers)]
