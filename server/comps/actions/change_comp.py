"""Changing a comp: a write names the revision it started from; a stale one is refused."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict, Stale
from config.events import announce
from django.db import transaction
from elements.models import Element
from elements.resolve import key
from neatveil.comp import Comp as Document
from neatveil.errors import DocumentRefused

from comps.models import Comp, CompRevision


def change_comp(comp_id: int, document: Document, base: int, person: Any, what: str = "") -> Comp:
    """Accept a document as the next revision.

    Raises `Stale`, naming both sides, where ``base`` is not the newest revision, and
    `DocumentRefused` where a layer names an element that the project has not.
    """
    with transaction.atomic():
        comp = Comp.objects.select_for_update().get(pk=comp_id)
        newest = _newest(comp)
        _check_base(comp, newest, base, what)
        _check_elements(comp, document)
        data = document.model_dump(mode="json", exclude={"elements"})
        return _accept(comp, data, person, what[:200], undo_to=newest.revision, redo_to=None)


def undo(comp_id: int, base: int, person: Any) -> Comp:
    """The document before the last change again, as a new revision; `Conflict` at the beginning."""
    with transaction.atomic():
        comp = Comp.objects.select_for_update().get(pk=comp_id)
        newest = _newest(comp)
        _check_base(comp, newest, base, "undo")
        if newest.undo_to is None:
            raise Conflict("There is nothing to undo.")
        target = comp.revisions.get(revision=newest.undo_to)
        what = f"undo: {newest.what}"[:200]
        return _accept(comp, target.document, person, what, undo_to=target.undo_to, redo_to=newest.revision)


def redo(comp_id: int, base: int, person: Any) -> Comp:
    """The document before the last undo again, as a new revision; `Conflict` where nothing was undone."""
    with transaction.atomic():
        comp = Comp.objects.select_for_update().get(pk=comp_id)
        newest = _newest(comp)
        _check_base(comp, newest, base, "redo")
        if newest.redo_to is None:
            raise Conflict("There is nothing to redo.")
        target = comp.revisions.get(revision=newest.redo_to)
        # Undoing the redo leads to where we are now; redoing further to where the target led.
        return _accept(
            comp, target.document, person, target.what, undo_to=target.undo_to, redo_to=target.redo_to
        )


def _newest(comp: Comp) -> CompRevision:
    return comp.revisions.get(revision=comp.revision)


def _check_base(comp: Comp, newest: CompRevision, base: int, what: str) -> None:
    if base == comp.revision:
        return
    who = newest.person.get_username() if newest.person else "somebody"
    raise Stale(
        f"{who} changed {comp.name} meanwhile ({newest.what or 'a change'}, revision {comp.revision}); "
        f"your change ({what or 'a change'}) started from revision {base}.",
        advice="Yours was not saved. Look at the newest state and make the change again.",
        where=comp.name,
    )


def _check_elements(comp: Comp, document: Document) -> None:
    known = {key(e) for e in Element.objects.filter(project_id=comp.project_id).only("pk")}
    for layer in document.layers:
        if layer.element not in known:
            raise DocumentRefused(
                f"Layer {layer.name} uses an element that this project does not have.",
                advice="Choose another element for it.", where=layer.name,
            )  # fmt: skip


def _accept(
    comp: Comp, data: dict[str, Any], person: Any, what: str, *, undo_to: int | None, redo_to: int | None
) -> Comp:
    comp.revision += 1
    comp.document = data
    comp.name = data["name"]
    comp.save(update_fields=["revision", "document", "name"])
    CompRevision.objects.create(
        comp=comp, revision=comp.revision, document=data, person=person, what=what,
        undo_to=undo_to, redo_to=redo_to,
    )  # fmt: skip
    announce(comp.project_id, "comps", comp.pk)
    return comp
