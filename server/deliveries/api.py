"""Deliveries: order, list, proof, files. How far one is, and stopping it: see jobs."""

from __future__ import annotations

from pathlib import Path
from typing import Any, Literal

from comps.models import Comp
from config.downloads import fetched
from config.errors import NotThere, Problem
from django.http import FileResponse, HttpRequest
from jobs.api import JobOut, job_out
from jobs.models import Job
from neatveil.delivery import DELIVERY_FORMATS, DeliveryForm, Proof, form_of
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from .actions.order_delivery import order_parts, order_rows
from .models import Delivery
from .places import format_of_delivery, proof_files, shown_folder, target_of

router = Router(tags=["deliveries"])

#: Files that are listed with a delivery; all lie in its folder.
SHOWN_FILES = 500


class FormatOut(Schema):
    name: str
    title: str
    help: str
    kind: Literal["frames", "movie"]
    ending: str
    reading_words: str
    encoding: str
    form: DeliveryForm


class OrderIn(Schema):
    """``format``: a ready one; or ``form``, which says all of it."""

    comp: int
    format: str = "png16-straight"
    form: DeliveryForm | None = None
    first: int
    last: int
    rate: str | None = None
    folder: str = Field(max_length=200)
    name: str = Field(max_length=200)
    loss_accepted: bool = Field(False, description="Order it although the format drops some of the comp.")


class OrderRowsIn(OrderIn):
    """``folder`` and ``name`` may hold {row} and slots' names in braces."""

    rows: list[int] = Field(min_length=1, max_length=10_000)


class DeliveryOut(Schema):
    id: int
    job: JobOut
    comp_name: str
    format: str
    format_title: str
    first: int
    last: int
    rate: str
    folder: str
    file: str
    path: str = Field(description="Where the files lie, seen from the application's folder.")
    encoding: str
    proof: Proof | None
    good: bool | None
    files: list[str] = Field(description="The first of its files, and its proof.")


def _out(row: Delivery) -> DeliveryOut:
    delivery_format = format_of_delivery(row)
    proof = Proof.model_validate(row.proof) if row.proof else None
    files = []
    if row.job.state == Job.State.DONE:
        shown = range(row.first, min(row.last, row.first + SHOWN_FILES - 1) + 1)
        files = [p.name for p in [*target_of(row).files(delivery_format, shown), *proof_files(row)]]
    return DeliveryOut(
        id=row.pk, job=job_out(row.job, checks=True), comp_name=row.comp_name, format=row.format,
        format_title=delivery_format.title, first=row.first, last=row.last, rate=row.rate, folder=row.folder,
        file=row.file, path=shown_folder(row), encoding=delivery_format.encoding, proof=proof,
        good=proof.good if proof else None, files=files,
    )  # fmt: skip


def _row(request: HttpRequest, delivery_id: int) -> Delivery:
    return row_for(request.user, Delivery, delivery_id, "delivery", "job__person")


@router.get("delivery-formats", response=list[FormatOut])
def list_formats(request: HttpRequest) -> list[FormatOut]:
    """Every format a delivery can have."""
    return [
        FormatOut(
            name=f.name, title=f.title, help=f.help, kind=f.kind, ending=f.ending,
            reading_words=f.reading.words(), encoding=f.encoding, form=form_of(f),
        )
        for f in DELIVERY_FORMATS.values()
    ]  # fmt: skip


@router.get("projects/{project_id}/deliveries", response={200: list[DeliveryOut], 404: Problem})
def list_deliveries(request: HttpRequest, project_id: int) -> list[DeliveryOut]:
    project = project_for(request.user, project_id)
    rows = (
        project.deliveries.select_related("job__person")
        .prefetch_related("job__pieces")
        .defer("document")[:200]
    )
    return [_out(r) for r in rows]


@router.post(
    "projects/{project_id}/deliveries", response={201: DeliveryOut, 404: Problem, 409: Problem, 422: Problem}
)
def order(request: HttpRequest, project_id: int, body: OrderIn) -> Status[DeliveryOut]:
    """Queue a delivery of a comp as it is now. RGB and alpha apart are two; the first is answered."""
    rows = order_parts(_ordered_comp(request, project_id, body), request.user, **_order(body))
    return Status(201, _out(rows[0]))


@router.post(
    "projects/{project_id}/deliveries/rows",
    response={201: list[DeliveryOut], 404: Problem, 409: Problem, 422: Problem},
)
def order_list(request: HttpRequest, project_id: int, body: OrderRowsIn) -> Status[list[DeliveryOut]]:
    """Queue a delivery for every chosen row of a comp's list; all of them or none."""
    comp = _ordered_comp(request, project_id, body)
    rows = order_rows(comp, request.user, list(dict.fromkeys(body.rows)), **_order(body))
    return Status(201, [_out(r) for r in rows])


def _ordered_comp(request: HttpRequest, project_id: int, body: OrderIn) -> Comp:
    project_for(request.user, project_id)
    comp = row_for(request.user, Comp, body.comp, "comp", "project")
    if comp.project_id != project_id:
        raise NotThere("This comp is not there.")
    return comp


def _order(body: OrderIn) -> dict[str, Any]:
    return {
        "format_name": body.format, "form": body.form, "first": body.first, "last": body.last,
        "rate": body.rate, "folder": body.folder, "name": body.name, "loss_accepted": body.loss_accepted,
    }  # fmt: skip


@router.get("deliveries/{delivery_id}", response={200: DeliveryOut, 404: Problem})
def read_delivery(request: HttpRequest, delivery_id: int) -> DeliveryOut:
    return _out(_row(request, delivery_id))


@router.get("deliveries/{delivery_id}/archive", response={404: Problem})
def download_all(request: HttpRequest, delivery_id: int) -> FileResponse:
    """All its files and its proof as one archive."""
    row = _row(request, delivery_id)
    paths = [p for p in _files_of(row) if p.is_file()]
    if not paths:
        raise NotThere("This delivery has no files yet.")
    return fetched(paths, row.file.split(".")[0])


@router.get("deliveries/{delivery_id}/files/{name}", response={404: Problem})
def download(request: HttpRequest, delivery_id: int, name: str) -> FileResponse:
    """One of the delivery's files."""
    known = {p.name: p for p in _files_of(_row(request, delivery_id))}
    if name not in known or not known[name].is_file():
        raise NotThere(f"This delivery has no file {name}.")
    return fetched([known[name]], name)


def _files_of(row: Delivery) -> list[Path]:
    """Those that are meant, with the proof and the hashes; they need not be there yet."""
    frames = range(row.first, row.last + 1)
    return [*target_of(row).files(format_of_delivery(row), frames), *proof_files(row)]
