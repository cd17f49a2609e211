"""Deliveries: list, proof, files. How far one is, and stopping it: see jobs."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from config.downloads import fetched
from config.errors import Conflict, NotThere, Problem
from django.http import FileResponse, HttpRequest, HttpResponse
from jobs.api import JobOut, job_out
from jobs.models import Job
from neatveil.delivery import (
    DELIVERY_FORMATS,
    DeliveryForm,
    ListCheck,
    Proof,
    Take,
    form_of,
    verify_hash_list,
)
from neatveil.delivery.formats import Purpose
from neatveil.delivery.hash_list import FOLDER as HASH_LISTS
from neatveil.delivery.proof_pictures import ProofShown
from neatveil.frame_list import parse_frames
from ninja import Field, Router, Schema
from projects.access import project_for, row_for

from deliveries.actions.prove_delivery import picture_of
from deliveries.models import Delivery
from deliveries.places import format_of_delivery, proof_files, shown_folder, target_of

router = Router()

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
    purpose: Purpose
    form: DeliveryForm


class DeliveryOut(Schema):
    id: int
    job: JobOut
    comp_name: str
    format: str
    format_title: str
    first: int
    last: int
    frames: int = Field(description="How many.")
    take: Take
    rate: str
    folder: str
    file: str
    path: str = Field(description="Where the files lie, seen from the application's folder.")
    encoding: str
    proof: Proof | None
    good: bool | None
    files: list[str] = Field(description="The first of its files, and its proof.")


def delivery_out(row: Delivery) -> DeliveryOut:
    delivery_format = format_of_delivery(row)
    proof = Proof.model_validate(row.proof) if row.proof else None
    files = []
    if row.job.state == Job.State.DONE:
        shown = parse_frames(row.numbers)[:SHOWN_FILES]
        files = [p.name for p in [*target_of(row).files(delivery_format, shown), *proof_files(row)]]
    return DeliveryOut(
        id=row.pk, job=job_out(row.job, checks=True), comp_name=row.comp_name, format=row.format,
        format_title=delivery_format.title, first=row.first, last=row.last,
        frames=sum(p.last - p.first + 1 for p in row.job.pieces.all()), take=Take.model_validate(row.take),
        rate=row.rate, folder=row.folder,
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
            reading_words=f.reading.words(), encoding=f.encoding, purpose=f.purpose, form=form_of(f),
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
    return [delivery_out(r) for r in rows]


@router.get("deliveries/{delivery_id}", response={200: DeliveryOut, 404: Problem})
def read_delivery(request: HttpRequest, delivery_id: int) -> DeliveryOut:
    return delivery_out(_row(request, delivery_id))


@router.get("deliveries/{delivery_id}/archive", response={404: Problem})
def download_all(request: HttpRequest, delivery_id: int) -> FileResponse:
    """All its files and its proof as one archive."""
    row = _row(request, delivery_id)
    paths = [p for p in _files_of(row) if p.is_file()]
    if not paths:
        raise NotThere("This delivery has no files yet.")
    lists = [p for p in [target_of(row).path.parent / HASH_LISTS] if p.is_dir()]
    return fetched(paths, row.file.split(".")[0], lists)


@router.get("deliveries/{delivery_id}/proof/picture", response={404: Problem, 409: Problem, 422: Problem})
def picture_of_proof(request: HttpRequest, delivery_id: int, frame: int, shown: ProofShown) -> HttpResponse:
    """A small PNG of one frame as its file holds it: over grey checks, or its alpha.

    Or where it differs from what was meant, raised so that the largest difference is white.
    """
    row = _row(request, delivery_id)
    if row.job.state != Job.State.DONE:
        raise Conflict("This delivery is not written whole yet.", advice="Wait for its proof.")
    png = picture_of(row, frame, shown)
    return HttpResponse(png, content_type="image/png", headers={"Cache-Control": "private, max-age=3600"})


@router.post("deliveries/{delivery_id}/verify", response={200: ListCheck, 404: Problem})
def verify(request: HttpRequest, delivery_id: int) -> ListCheck:
    """Hash all files of its folder again, and compare them with the folder's hash list."""
    return verify_hash_list(target_of(_row(request, delivery_id)).path.parent)


@router.get("deliveries/{delivery_id}/files/{name}", response={404: Problem})
def download(request: HttpRequest, delivery_id: int, name: str) -> FileResponse:
    """One of the delivery's files."""
    known = {p.name: p for p in _files_of(_row(request, delivery_id))}
    if name not in known or not known[name].is_file():
        raise NotThere(f"This delivery has no file {name}.")
    return fetched([known[name]], name)


def _files_of(row: Delivery) -> list[Path]:
    """Those that are meant, with the proof and the hashes; they need not be there yet."""
    return [*target_of(row).files(format_of_delivery(row), parse_frames(row.numbers)), *proof_files(row)]
