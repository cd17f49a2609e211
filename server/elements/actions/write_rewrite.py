"""Carrying out a rewrite: written, every frame checked, and then an element of its own."""

from __future__ import annotations

import re
import shutil
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from config.events import announce
from config.trouble import as_problem
from django.conf import settings
from django.db import transaction
from django.utils import timezone
from neatveil.comp import Element as CoreElement
from neatveil.errors import Cancelled, ValueRefused
from neatveil.io import Decoder, Facts
from neatveil.io.decoder import describe
from neatveil.rewrite import (
    RewriteForm,
    check,
    data_channels,
    extra_channels,
    reading_after,
    rewrite,
    rewrite_form_named,
)

from elements.models import Element, Rewrite
from elements.resolve import core_element

from .look_at import look_at
from .take_over import take_over

State = Rewrite.State
#: Progress is told after so many frames, or for each of a short one.
TOLD = 5


def write_rewrite(rewrite_id: int, decoder: Decoder) -> None:
    """Done again from the start when its worker was killed: nothing half-written counts."""
    row = Rewrite.objects.select_related("element", "element__library").filter(pk=rewrite_id).first()
    if row is None or row.state not in {State.QUEUED, State.WRITING, State.CHECKING}:
        return
    form = rewrite_form_named(row.form)
    folder = settings.MEDIA / "rewrites" / str(row.pk)
    shutil.rmtree(folder, ignore_errors=True)
    _set(row, state=State.WRITING, started=timezone.now(), done=0)
    try:
        target = _write(row, form, folder, decoder)
    except Cancelled:
        shutil.rmtree(folder, ignore_errors=True)
        _set(row, state=State.CANCELLED, ended=timezone.now())
    except Exception as error:  # noqa: BLE001 - whatever it is, the row must end
        problem = as_problem(error, f"Transcoding {row.element.name}")
        shutil.rmtree(folder, ignore_errors=True)
        _set(row, state=State.FAILED, problem=describe(problem), ended=timezone.now())
    else:
        _arrive(row, form, target, decoder)


def _write(row: Rewrite, form: RewriteForm, folder: Path, decoder: Decoder) -> Path:
    element = core_element(row.element)
    folder.mkdir(parents=True, exist_ok=True)
    stem = (
        re.sub(r"[.#%]+$", "", Path(row.element.name).stem.split("#")[0].split("%")[0]).strip(" .")
        or "element"
    )
    single = form.kind == "movie" or element.still
    target = folder / (f"{stem}{form.ending}" if single else f"{stem}.####{form.ending}")
    frames = range(element.first, element.first + 1 if element.still else element.last + 1)
    rate = Fraction(row.element.rate or (row.element.facts or {}).get("rate") or "25")
    rewrite(
        element, decoder, form, target, frames, rate=rate, allow_loss=True, progress=_progress(row, frames),
        cancelled=_asks(row),
    )  # fmt: skip
    _set(row, state=State.CHECKING, done=0)
    report = check(
        element, decoder, form, target, frames, progress=_progress(row, frames), cancelled=_asks(row)
    )
    _set(row, report=report.model_dump(mode="json"))
    if report.problems:
        raise ValueRefused(
            report.problems[0], advice="The element was left as it is; choose another form.",
            where=row.element.name,
        )  # fmt: skip
    return target


def _arrive(row: Rewrite, form: RewriteForm, target: Path, decoder: Decoder) -> None:
    """The result becomes an element, read as it was written, and takes over where that was asked."""
    source = core_element(row.element)
    facts = Facts.model_validate(row.element.facts)
    has_alpha = facts.alpha or any(p.name == "A" for p in source.joined)
    reading, encoding = reading_after(source, form, has_alpha)
    made = Element.objects.create(
        project_id=row.project_id, name=f"{row.element.name} ({form.title})"[:300],
        file=target.relative_to(settings.MEDIA).as_posix(),
        reading=reading.model_dump(mode="json"), reading_set=True, encoding=encoding,
        rate="" if form.kind == "movie" else str(source.rate or ""), folder=row.element.folder,
        kinds={**row.element.kinds, **_marked_as_data(source, facts, form)},
    )  # fmt: skip
    made = look_at(made.pk, decoder)
    if row.take_over and made.state == Element.State.READY:
        before = Element.objects.get(pk=row.element_id)
        take_over(before, made)
        meaning = {"reading": made.reading, "encoding": encoding}
        Element.objects.filter(pk=made.pk).update(
            reading=before.reading, encoding=before.encoding, name=f"{before.name} (before)"[:300]
        )
        Element.objects.filter(pk=before.pk).update(**meaning)
    _set(row, state=State.DONE, result=made, ended=timezone.now())


def _marked_as_data(source: CoreElement, facts: Facts, form: RewriteForm) -> dict[str, str]:
    """Channels that hold data and are held by the form: what their samples said, the new file cannot say."""
    kept = {"R", "G", "B", "Y", *extra_channels(source, facts, form)}
    return dict.fromkeys(sorted(data_channels(source, facts) & kept), "data")


def _progress(row: Rewrite, frames: range) -> Callable[[int], None]:
    def tell(frame: int) -> None:
        done = frame - frames.start + 1
        if done % TOLD == 0 or done == len(frames):
            Rewrite.objects.filter(pk=row.pk).update(done=done)
            announce(row.project_id, "elements", row.element_id)

    return tell


def _asks(row: Rewrite) -> Callable[[], bool]:
    return lambda: Rewrite.objects.filter(pk=row.pk, cancel=True).exists()


def _set(row: Rewrite, **values: object) -> None:
    with transaction.atomic():
        Rewrite.objects.filter(pk=row.pk).update(**values)
        announce(row.project_id, "elements", row.element_id)
