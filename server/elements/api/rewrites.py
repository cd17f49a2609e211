"""Rewriting elements to another codec or to frames."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from config.errors import Problem
from django.http import HttpRequest
from neatveil.rewrite import REWRITE_FORMS
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from elements.actions.order_rewrite import cancel_rewrite, forget_rewrite, losses_of, order_rewrites
from elements.models import Rewrite

from .shapes import elements_for

router = Router()


class RewriteFormOut(Schema):
    name: str
    title: str
    help: str
    kind: Literal["movie", "frames"]
    alpha: bool
    bits: int
    floating: bool


class RewriteIn(Schema):
    elements: list[int]
    form: str
    loss_accepted: bool = Field(False, description="Also where the form cannot hold all of an element.")
    take_over: bool = False


class LossesIn(Schema):
    elements: list[int] = Field(max_length=200)
    form: str


class LossesOut(Schema):
    """What a form cannot hold of an element, and what it holds in a narrower range; sentences."""

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


class RewriteOut(Schema):
    id: int
    element: int
    result: int | None
    form: str
    title: str
    take_over: bool
    state: Literal["queued", "writing", "checking", "done", "failed", "cancelled"]
    done: int
    count: int
    check: CheckOut | None
    problem: Problem | None
    started: datetime | None
    ended: datetime | None


def _out(row: Rewrite) -> RewriteOut:
    check = row.report and CheckOut(**{k: row.report[k] for k in CheckOut.model_fields})
    return RewriteOut(
        id=row.pk, element=row.element_id, result=row.result_id, form=row.form,
        title=REWRITE_FORMS[row.form].title, take_over=row.take_over, state=row.state, done=row.done,
        count=row.count, check=check, problem=row.problem, started=row.started, ended=row.ended,
    )  # fmt: skip


@router.get("rewrite-forms", response=list[RewriteFormOut])
def rewrite_forms(request: HttpRequest) -> list[RewriteFormOut]:
    return [
        RewriteFormOut(
            name=f.name,
            title=f.title,
            help=f.help,
            kind=f.kind,
            alpha=f.alpha,
            bits=f.bits,
            floating=f.floating,
        )
        for f in REWRITE_FORMS.values()
    ]


@router.get("projects/{project_id}/rewrites", response={200: list[RewriteOut], 404: Problem})
def list_rewrites(request: HttpRequest, project_id: int) -> list[RewriteOut]:
    return [_out(r) for r in project_for(request.user, project_id).rewrites.all()]


@router.post("rewrites", response={201: list[RewriteOut], 404: Problem, 409: Problem, 422: Problem})
def order(request: HttpRequest, body: RewriteIn) -> Status[list[RewriteOut]]:
    """Rewrite elements; each result becomes an element, or takes over every use of its source."""
    rows = order_rewrites(
        elements_for(request, body.elements), request.user, body.form, loss_accepted=body.loss_accepted,
        take_over=body.take_over,
    )  # fmt: skip
    return Status(201, [_out(r) for r in rows])


@router.post("rewrites/losses", response={200: list[LossesOut], 404: Problem, 409: Problem, 422: Problem})
def losses(request: HttpRequest, body: LossesIn) -> list[LossesOut]:
    """What would be lost, before anything is ordered."""
    found = []
    for row in elements_for(request, body.elements):
        dropped, narrowed = losses_of(row, body.form)
        found.append(LossesOut(element=row.pk, dropped=dropped, narrowed=narrowed))
    return found


@router.post("rewrites/{rewrite_id}/cancel", response={200: RewriteOut, 404: Problem, 409: Problem})
def cancel(request: HttpRequest, rewrite_id: int) -> RewriteOut:
    return _out(cancel_rewrite(row_for(request.user, Rewrite, rewrite_id, "transcode")))


@router.delete("rewrites/{rewrite_id}", response={204: None, 404: Problem, 409: Problem})
def forget(request: HttpRequest, rewrite_id: int) -> Status[None]:
    forget_rewrite(row_for(request.user, Rewrite, rewrite_id, "transcode"))
    return Status(204, None)
