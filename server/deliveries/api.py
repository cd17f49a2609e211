"""Deliveries: order, progress, cancel, retry, proof, files."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from comps.models import Comp
from config.errors import NotThere, Problem
from django.http import FileResponse, HttpRequest
from django.utils import timezone
from neatveil.delivery import FORMS, Proof
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from .actions.order_delivery import order_delivery
from .actions.steer_delivery import cancel_delivery, forget_delivery, retry_delivery
from .models import Delivery
from .places import form_of, proof_files, shown_folder, target_of

router = Router(tags=["deliveries"])

#: Files that are listed with a delivery; all lie in its folder.
SHOWN_FILES = 500


class FormOut(Schema):
    name: str
    title: str
    help: str
    kind: Literal["frames", "movie"]
    ending: str
    reading_words: str
    encoding: str


class OrderIn(Schema):
    comp: int
    form: str
    first: int
    last: int
    rate: str | None = None
    place: str = Field(max_length=200)
    name: str = Field(max_length=200)
    loss_accepted: bool = Field(False, description="Order it although the form drops some of the comp.")


class DeliveryOut(Schema):
    id: int
    comp_name: str
    form: str
    form_title: str
    first: int
    last: int
    rate: str
    place: str
    file: str
    folder: str = Field(description="Where the files lie, seen from the application's folder.")
    encoding: str
    person: str | None
    state: Literal["queued", "writing", "proving", "done", "failed", "cancelled"]
    cancelling: bool
    written: int
    proved: int
    count: int
    seconds_left: float | None
    problem: Problem | None
    proof: Proof | None
    good: bool | None
    files: list[str] = Field(description="The first of its files, and its proof.")
    ordered: datetime
    ended: datetime | None


def _seconds_left(row: Delivery, written: int) -> float | None:
    """From the pace so far; proving counts as much as writing until its own pace is known."""
    if row.started is None or row.state not in {"writing", "proving"}:
        return None
    done, total = written + row.proved, 2 * row.count
    if done < 2:
        return None
    spent = (timezone.now() - row.started).total_seconds()
    return spent / done * (total - done)


def _out(row: Delivery) -> DeliveryOut:
    form = form_of(row)
    written = sum(p.written for p in row.pieces.all())
    proof = Proof.model_validate(row.proof) if row.proof else None
    files = []
    if row.state == Delivery.State.DONE:
        shown = range(row.first, min(row.last, row.first + SHOWN_FILES - 1) + 1)
        files = [p.name for p in [*target_of(row).files(form, shown), *proof_files(row)]]
    return DeliveryOut(
        id=row.pk, comp_name=row.comp_name, form=row.form, form_title=form.title, first=row.first,
        last=row.last, rate=row.rate, place=row.place, file=row.file, folder=shown_folder(row),
        encoding=form.encoding,
        person=row.person.get_username() if row.person else None, state=row.state,
        cancelling=row.cancel and row.state != "cancelled", written=written, proved=row.proved,
        count=row.count, seconds_left=_seconds_left(row, written), problem=row.problem, proof=proof,
        good=proof.good if proof else None, files=files, ordered=row.ordered, ended=row.ended,
    )  # fmt: skip


def _row(request: HttpRequest, delivery_id: int) -> Delivery:
    return row_for(request.user, Delivery, delivery_id, "delivery", "person")


@router.get("forms", response=list[FormOut])
def list_forms(request: HttpRequest) -> list[FormOut]:
    """Every form a delivery can take."""
    return [
        FormOut(
            name=f.name, title=f.title, help=f.help, kind=f.kind, ending=f.ending,
            reading_words=f.reading.words(), encoding=f.encoding,
        )
        for f in FORMS.values()
    ]  # fmt: skip


@router.get("projects/{project_id}/deliveries", response={200: list[DeliveryOut], 404: Problem})
def list_deliveries(request: HttpRequest, project_id: int) -> list[DeliveryOut]:
    project = project_for(request.user, project_id)
    rows = project.deliveries.select_related("person").prefetch_related("pieces").defer("document")[:200]
    return [_out(r) for r in rows]


@router.post(
    "projects/{project_id}/deliveries", response={201: DeliveryOut, 404: Problem, 409: Problem, 422: Problem}
)
def order(request: HttpRequest, project_id: int, body: OrderIn) -> Status[DeliveryOut]:
    """Queue a delivery of a comp as it is now."""
    project_for(request.user, project_id)
    comp = row_for(request.user, Comp, body.comp, "comp", "project")
    if comp.project_id != project_id:
        raise NotThere("This comp is not there.")
    row = order_delivery(
        comp, request.user, form_name=body.form, first=body.first, last=body.last, rate=body.rate,
        place=body.place, name=body.name, loss_accepted=body.loss_accepted,
    )  # fmt: skip
    return Status(201, _out(row))


@router.get("deliveries/{delivery_id}", response={200: DeliveryOut, 404: Problem})
def read_delivery(request: HttpRequest, delivery_id: int) -> DeliveryOut:
    return _out(_row(request, delivery_id))


@router.post("deliveries/{delivery_id}/cancel", response={200: DeliveryOut, 404: Problem, 409: Problem})
def cancel(request: HttpRequest, delivery_id: int) -> DeliveryOut:
    return _out(cancel_delivery(_row(request, delivery_id)))


@router.post("deliveries/{delivery_id}/retry", response={200: DeliveryOut, 404: Problem, 409: Problem})
def retry(request: HttpRequest, delivery_id: int) -> DeliveryOut:
    return _out(retry_delivery(_row(request, delivery_id)))


@router.delete("deliveries/{delivery_id}", response={204: None, 404: Problem, 409: Problem})
def forget(request: HttpRequest, delivery_id: int) -> Status[None]:
    forget_delivery(_row(request, delivery_id))
    return Status(204, None)


@router.get("deliveries/{delivery_id}/files/{name}", response={404: Problem})
def download(request: HttpRequest, delivery_id: int, name: str) -> FileResponse:
    """One of the delivery's files."""
    row = _row(request, delivery_id)
    frames = range(row.first, row.last + 1)
    known = {p.name: p for p in [*target_of(row).files(form_of(row), frames), *proof_files(row)]}
    if name not in known or not known[name].is_file():
        raise NotThere(f"This delivery has no file {name}.")
    return FileResponse(known[name].open("rb"), as_attachment=True, filename=name)
