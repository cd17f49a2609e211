"""Transcoding elements. How far one is, and stopping it: see jobs."""

from __future__ import annotations

from typing import Literal

from config.errors import Problem
from django.http import HttpRequest
from jobs.api import JobOut, job_out
from neatveil.codecs import CODECS
from ninja import Field, Router, Schema, Status
from projects.access import project_for

from elements.actions.order_transcode import losses_of, order_transcodes
from elements.models import Transcode

from .shapes import elements_for

router = Router()


class CompressionOut(Schema):
    """``mean``: largest mean difference of the colour where it is lossy."""

    name: str
    label: str
    mean: float


class TranscodeFormatOut(Schema):
    name: str
    title: str
    help: str
    kind: Literal["movie", "frames"]
    alpha: bool
    bits: int
    floating: bool
    lossless: bool
    ending: str
    compression: str
    compressions: list[CompressionOut]


class TranscodeIn(Schema):
    elements: list[int]
    format: str
    loss_accepted: bool = Field(False, description="Also where the format cannot hold all of an element.")
    take_over: bool = False


class LossesIn(Schema):
    elements: list[int] = Field(max_length=200)
    format: str


class LossesOut(Schema):
    """What a format cannot hold of an element, and what it holds in a narrower range; sentences."""

    element: int
    dropped: list[str]
    narrowed: list[str]


class CheckOut(Schema):
    """Of every frame, before and after. Errors in code values 0..1."""

    frames_before: int
    frames_after: int
    colour_mean: float
    colour_most: float
    alpha_most: float
    worst_frame: int | None


class TranscodeOut(Schema):
    id: int
    job: JobOut
    element: int
    result: int | None
    format: str
    title: str
    take_over: bool
    check: CheckOut | None


def _out(row: Transcode) -> TranscodeOut:
    check = row.report and CheckOut(**{k: row.report[k] for k in CheckOut.model_fields})
    return TranscodeOut(
        id=row.pk, job=job_out(row.job, checks=True), element=row.element_id, result=row.result_id,
        format=row.format, title=CODECS[row.format].title, take_over=row.take_over, check=check,
    )  # fmt: skip


@router.get("transcode-formats", response=list[TranscodeFormatOut])
def transcode_formats(request: HttpRequest) -> list[TranscodeFormatOut]:
    """The file formats that are written: by transcoding, and by deliveries' forms."""
    return [TranscodeFormatOut.from_orm(c) for c in CODECS.values()]


@router.get("projects/{project_id}/transcodes", response={200: list[TranscodeOut], 404: Problem})
def list_transcodes(request: HttpRequest, project_id: int) -> list[TranscodeOut]:
    project = project_for(request.user, project_id)
    rows = project.transcodes.select_related("job__person").prefetch_related("job__pieces")
    return [_out(r) for r in rows]


@router.post("transcodes", response={201: list[TranscodeOut], 404: Problem, 409: Problem, 422: Problem})
def order(request: HttpRequest, body: TranscodeIn) -> Status[list[TranscodeOut]]:
    """Transcode elements; each result becomes an element, or takes over every use of its source."""
    rows = order_transcodes(
        elements_for(request, body.elements), request.user, body.format, loss_accepted=body.loss_accepted,
        take_over=body.take_over,
    )  # fmt: skip
    return Status(201, [_out(r) for r in rows])


@router.post("transcodes/losses", response={200: list[LossesOut], 404: Problem, 409: Problem, 422: Problem})
def losses(request: HttpRequest, body: LossesIn) -> list[LossesOut]:
    """What would be lost, before anything is ordered."""
    found = []
    for row in elements_for(request, body.elements):
        dropped, narrowed = losses_of(row, body.format)
        found.append(LossesOut(element=row.pk, dropped=dropped, narrowed=narrowed))
    return found
