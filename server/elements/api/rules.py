"""A project's rules for reading imported files."""

from __future__ import annotations

from config.errors import Problem
from config.events import announce
from django.db import transaction
from django.http import HttpRequest
from neatveil.alpha import Reading
from neatveil.comp.elements import Encoding
from neatveil.errors import ValueRefused
from neatveil.io import Facts
from ninja import Field, Router, Schema, Status
from projects.access import project_for, row_for

from elements.actions.look_at import fits
from elements.actions.set_reading import set_reading
from elements.models import ReadingRule

router = Router()


class RuleIn(Schema):
    """What is filled in must hold: all of it."""

    format: str = Field("", max_length=40)
    codec: str = Field("", max_length=40)
    folder: str = Field("", max_length=300)
    pattern: str = Field("", max_length=300)
    reading: Reading
    encoding: Encoding | None = None
    apply_now: bool = Field(False, description="Also to the elements that are here and fit.")


class RuleOut(Schema):
    id: int
    format: str
    codec: str
    folder: str
    pattern: str
    reading: Reading
    reading_words: str
    encoding: str | None
    fitting: int = Field(description="Elements of the project that fit.")


def _out(row: ReadingRule) -> RuleOut:
    reading = Reading.model_validate(row.reading)
    return RuleOut(
        id=row.pk, format=row.format, codec=row.codec, folder=row.folder, pattern=row.pattern,
        reading=reading, reading_words=reading.words(), encoding=row.encoding or None,
        fitting=len(_fitting(row)),
    )  # fmt: skip


def _fitting(rule: ReadingRule):  # type: ignore[no-untyped-def]
    rows = rule.project.elements.exclude(facts=None)
    return [r for r in rows if r.facts and r.facts["alpha"] and fits(rule, r, Facts.model_validate(r.facts))]


@router.get("projects/{project_id}/reading-rules", response={200: list[RuleOut], 404: Problem})
def list_rules(request: HttpRequest, project_id: int) -> list[RuleOut]:
    return [_out(r) for r in project_for(request.user, project_id).reading_rules.all()]


@router.post("projects/{project_id}/reading-rules", response={201: RuleOut, 404: Problem, 422: Problem})
def add_rule(request: HttpRequest, project_id: int, body: RuleIn) -> Status[RuleOut]:
    """Keep a reading as the project's default for what fits; the first rule that fits counts."""
    project = project_for(request.user, project_id)
    if not (body.format or body.codec or body.folder or body.pattern):
        raise ValueRefused(
            "A rule must say what it is for.", advice="Give a format, codec, folder or name.", where="pattern"
        )
    with transaction.atomic():
        rule = ReadingRule.objects.create(
            project=project, format=body.format, codec=body.codec, folder=body.folder, pattern=body.pattern,
            reading=body.reading.model_dump(mode="json"), encoding=body.encoding or "",
        )  # fmt: skip
        if body.apply_now:
            set_reading(_fitting(rule), request.user, reading=body.reading, encoding=body.encoding)
        announce(project.pk, "elements", 0)
    return Status(201, _out(rule))


@router.delete("reading-rules/{rule_id}", response={204: None, 404: Problem})
def drop_rule(request: HttpRequest, rule_id: int) -> Status[None]:
    row = row_for(request.user, ReadingRule, rule_id, "rule")
    announce(row.project_id, "elements", 0)
    row.delete()
    return Status(204, None)
