"""Carrying out a transcode: written, every frame checked, and then an element of its own."""

from __future__ import annotations

import re
import shutil
from fractions import Fraction
from pathlib import Path

from config.engine import decoder
from django.conf import settings
from django.db import transaction
from jobs.control import Control
from jobs.models import Job, Piece
from neatveil.codecs import Codec, codec_named
from neatveil.comp import Element as CoreElement
from neatveil.errors import ValueRefused
from neatveil.io import Facts
from neatveil.picture import RGB
from neatveil.transcode import check, data_channels, extra_channels, reading_after, transcode

from elements.models import Element, Transcode
from elements.resolve import core_element

from .look_at import look_at
from .take_over import take_over

KIND, QUEUE = "transcode", "transcodes"


def run_piece(piece: Piece, control: Control) -> None:
    """Write it from the start: nothing half-written counts."""
    row = Transcode.objects.select_related("element__library").get(job_id=piece.job_id)
    shutil.rmtree(_folder(row), ignore_errors=True)
    _folder(row).mkdir(parents=True)
    element = core_element(row.element)
    rate = Fraction(row.element.rate or (row.element.facts or {}).get("rate") or "25")
    transcode(
        element, decoder(), codec_named(row.format), _target(row, element), _frames(element),
        rate=rate, allow_loss=True, progress=control.frame_written,
        cancelled=control.cancelled,
    )  # fmt: skip


def finish(job: Job, control: Control) -> None:
    """Compare every frame with the element's, and make the files an element of the project."""
    row = Transcode.objects.select_related("element__library").get(job=job)
    element, codec = core_element(row.element), codec_named(row.format)
    if row.result is None:  # else a worker was killed after this: the element may be changed over already
        target = _target(row, element)
        report = check(
            element, decoder(), codec, target, _frames(element),
            progress=lambda frame: control.frames_checked(frame - element.first + 1),
            cancelled=control.cancelled,
        )  # fmt: skip
        Transcode.objects.filter(pk=row.pk).update(report=report.model_dump(mode="json"))
        if report.problems:
            raise ValueRefused(
                report.problems[0], advice="The element was left as it is; choose another format.",
                where=row.element.name,
            )  # fmt: skip
        _make_element(row, element, codec, target)
    _look_and_take_over(row)


def clear(job: Job) -> None:
    """The files of one that failed or was cancelled, unless they are an element's already."""
    row = Transcode.objects.filter(job=job, result=None).first()
    if row is not None:
        shutil.rmtree(_folder(row), ignore_errors=True)


def _folder(row: Transcode) -> Path:
    folder: Path = settings.MEDIA / "transcodes" / str(row.pk)
    return folder


def _target(row: Transcode, element: CoreElement) -> Path:
    codec = codec_named(row.format)
    stem = Path(row.element.name).stem.split("#")[0].split("%")[0]
    stem = re.sub(r"[.#%]+$", "", stem).strip(" .") or "element"
    single = codec.kind == "movie" or element.still
    return _folder(row) / (f"{stem}{codec.ending}" if single else f"{stem}.####{codec.ending}")


def _frames(element: CoreElement) -> range:
    return range(element.first, element.first + 1 if element.still else element.last + 1)


def _make_element(row: Transcode, source: CoreElement, codec: Codec, target: Path) -> None:
    """The result as an element, read as it was written: made once, however often a worker is killed."""
    facts = Facts.model_validate(row.element.facts)
    has_alpha = facts.alpha or any(p.name == "A" for p in source.joined)
    reading, encoding = reading_after(source, codec, has_alpha)
    with transaction.atomic():
        locked = Transcode.objects.select_for_update().get(pk=row.pk)
        if locked.result_id is None:
            locked.result = Element.objects.create(
                project_id=row.project_id, name=f"{row.element.name} ({codec.title})"[:300],
                file=target.relative_to(settings.MEDIA).as_posix(),
                reading=reading.model_dump(mode="json"), reading_set=True, encoding=encoding,
                rate="" if codec.kind == "movie" else str(source.rate or ""), folder=row.element.folder,
                kinds={**row.element.kinds, **_marked_as_data(source, facts, codec)}, holds=row.element.holds,
            )  # fmt: skip
            locked.save(update_fields=["result"])
    row.result = locked.result


def _look_and_take_over(row: Transcode) -> None:
    """Facts of the new element; and its files in the old one's place, once."""
    assert row.result_id is not None
    if not row.taken_over:
        look_at(row.result_id, decoder())
    if not row.take_over:
        return
    with transaction.atomic():
        locked = Transcode.objects.select_for_update().get(pk=row.pk)
        made = Element.objects.get(pk=row.result_id)
        if locked.taken_over or made.state != Element.State.READY:
            return
        before = Element.objects.get(pk=row.element_id)
        take_over(before, made)
        meaning = {"reading": made.reading, "encoding": made.encoding}
        Element.objects.filter(pk=made.pk).update(
            reading=before.reading, encoding=before.encoding, name=f"{before.name} (before)"[:300]
        )
        Element.objects.filter(pk=before.pk).update(**meaning)
        locked.taken_over = True
        locked.save(update_fields=["taken_over"])


def _marked_as_data(source: CoreElement, facts: Facts, codec: Codec) -> dict[str, str]:
    """Channels of data that the format holds: their old samples said so, the new file cannot."""
    kept = {*RGB, "Y", *extra_channels(source, facts, codec)}
    data = data_channels(source, facts) & kept
    # a grey picture is written as three alike
    return dict.fromkeys(sorted(data - {"Y"} | set(RGB) if "Y" in data else data), "data")
