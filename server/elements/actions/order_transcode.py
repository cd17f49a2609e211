"""Ordering transcodes of elements: what would be lost is said before."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from django.db import transaction
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.models import UNENDED
from neatveil.codecs import codec_named
from neatveil.errors import RateMissing, ValueRefused, WouldLose
from neatveil.io import Facts
from neatveil.transcode import dropped, narrowed

from elements.models import Element, Transcode
from elements.resolve import core_element

from .write_transcode import KIND


def order_transcodes(
    rows: list[Element],
    person: Any,
    format_name: str,
    *,
    loss_accepted: bool = False,
    take_over: bool = False,
) -> list[Transcode]:  # fmt: skip
    """One transcode each, all or none.

    Raises `WouldLose` unless ``loss_accepted``; `ValueRefused` for a still that would become a movie or gaps
    that are errors; `RateMissing`; `Conflict` for one that is not ready or is being transcoded.
    """
    codec = codec_named(format_name)
    for row in rows:
        facts = _checked(row)
        lost = dropped(core_element(row), facts, codec)
        if lost and not loss_accepted:
            raise WouldLose(
                f"{row.name}: {' '.join(lost)}", advice="Choose another format, or say that it may go.",
                where=row.name,
            )  # fmt: skip
        if codec.kind == "movie" and facts.kind == "still":
            raise ValueRefused(
                f"{row.name} is a still.", advice="Transcode it to frames instead.", where=row.name
            )
        if codec.kind == "movie" and not (row.rate or facts.rate):
            raise RateMissing(f"{row.name} gives no frame rate.", advice="Set it first.", where=row.name)
        if facts.missing and row.gaps == "error":
            raise ValueRefused(
                f"{row.name} has {len(facts.missing)} missing frames.",
                advice="Say first whether the frame before or black stands in for them.", where=row.name,
            )  # fmt: skip
    made = []
    with transaction.atomic():
        for row in rows:
            facts = Facts.model_validate(row.facts)
            # one piece: a movie cannot be written in parts, and frames are checked as a whole anyway
            job = create_job(KIND, row.project_id, person, [(facts.first, facts.last)])
            one = Transcode.objects.create(
                project_id=row.project_id, element=row, job=job, format=codec.name, take_over=take_over
            )
            queue_pieces(job)
            made.append(one)
    return made


def losses_of(row: Element, format_name: str) -> tuple[list[str], list[str]]:
    """What a format cannot hold of an element, and what it holds in less: sentences, before it is ordered."""
    codec, facts, element = codec_named(format_name), _checked(row), core_element(row)
    return dropped(element, facts, codec), narrowed(element, facts, codec)


def _checked(row: Element) -> Facts:
    if row.state != Element.State.READY or row.facts is None:
        raise Conflict(f"{row.name} is not ready.", advice="Wait until it is looked at.", where=row.name)
    if row.transcodes.filter(job__state__in=UNENDED).exists():
        raise Conflict(f"{row.name} is being transcoded already.", where=row.name)
    return Facts.model_validate(row.facts)
