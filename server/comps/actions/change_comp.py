"""Changing a comp: a write names the revision it started from; a stale one is refused."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict, Stale
from config.events import announce
from django.db import transaction
from elements.actions.set_reading import do_again, take_back
from elements.models import Element, ReadingChange
from elements.resolve import key
from neatveil.comp import Comp as Document
from neatveil.comp import Layer
from neatveil.comp.loading import is_newer, parse_comp
from neatveil.comp.merging import merge
from neatveil.errors import DocumentRefused

from comps.actions.history import reach_of
from comps.cameras import check_cameras
from comps.inner_comps import comp_number, refuse_circles
from comps.models import Comp, CompRevision
from comps.revisions import document_at, keep_revision

#: Fields of a document that the project's own rows stand for.
SOURCES = {"elements", "comps", "cameras"}


def change_comp(comp_id: int, document: Document, base: int, person: Any, what: str = "") -> Comp:
    """Accept a document as the next revision.

    Raises `Stale`, naming both sides, where ``base`` is not the newest revision, and
    `DocumentRefused` where a layer names an element that the project has not.
    """
    with transaction.atomic():
        comp = _locked(comp_id, base, what)
        check_elements(comp.project_id, document)
        check_cameras(comp.project_id, document)
        refuse_circles(document, comp.project_id, comp.pk)
        data = document.model_dump(mode="json", exclude=SOURCES)
        return _accept(comp, data, person, what[:200])


def undo(comp_id: int, base: int, person: Any) -> Comp:
    """Takes the person's last change back, beside what others changed since, as a new revision.

    `Conflict` where there is none, or where somebody has changed the same since.
    """
    with transaction.atomic():
        comp = _locked(comp_id, base, "undo")
        change = reach_of(comp, person).back
        if change is None:
            raise Conflict("There is nothing of yours to undo.")
        if isinstance(change, ReadingChange):
            take_back(change, Element.objects.select_for_update().get(pk=change.element_id))
            return comp
        before, after = (document_at(comp, r) for r in (change.revision - 1, change.revision))
        data = _with_turned(comp, change, after, before)
        what = f"undo: {change.what}"[:200]
        return _accept(comp, data, person, what, takes_back=change.revision)


def redo(comp_id: int, base: int, person: Any) -> Comp:
    """Does again what the person took back last; `Conflict` as for `undo`."""
    with transaction.atomic():
        comp = _locked(comp_id, base, "redo")
        change = reach_of(comp, person).again
        if change is None:
            raise Conflict("There is nothing of yours to redo.")
        if isinstance(change, ReadingChange):
            do_again(change)
            return comp
        before, after = (document_at(comp, r) for r in (change.revision - 1, change.revision))
        data = _with_turned(comp, change, before, after)
        return _accept(comp, data, person, change.what, does_again=change.revision)


def _locked(comp_id: int, base: int, what: str) -> Comp:
    comp = Comp.objects.select_for_update().get(pk=comp_id)
    _check_base(comp, _newest(comp), base, what)
    return comp


def _with_turned(
    comp: Comp, change: CompRevision, old: dict[str, Any], wanted: dict[str, Any]
) -> dict[str, Any]:
    """The newest document with one change turned round."""
    data, clashes = merge(old, wanted, comp.document)
    if clashes:
        since = comp.revisions.filter(revision__gt=change.revision).exclude(person=change.person).last()
        who = since.person.get_username() if since and since.person else "somebody"
        raise Conflict(
            f"{change.what or 'Your change'} cannot be turned round: {who} has changed the same since "
            f"({', '.join(clashes[:3])}).",
            advice="Nothing was changed. Set it by hand, or go back to a named state.", where=comp.name,
        )  # fmt: skip
    document = parse_comp(data, comp.name)
    # what is gone meanwhile is told where it is drawn, as with elements: undo goes on past it
    refuse_circles(document, comp.project_id, comp.pk, gone_too=False)
    return document.model_dump(mode="json", exclude=SOURCES)


def _newest(comp: Comp) -> CompRevision:
    return comp.revisions.get(revision=comp.revision)


def _check_base(comp: Comp, newest: CompRevision, base: int, what: str) -> None:
    if is_newer(comp.document):
        raise Conflict(
            f"{comp.name} was made by a newer version of Neat Veil.",
            advice="It is shown as far as it is known here, and not changed: nothing of it is lost.",
            where=comp.name,
        )
    if base == comp.revision:
        return
    who = newest.person.get_username() if newest.person else "somebody"
    raise Stale(
        f"{who} changed {comp.name} meanwhile ({newest.what or 'a change'}, revision {comp.revision}); "
        f"your change ({what or 'a change'}) started from revision {base}.",
        advice="Yours was not saved. Look at the newest state and make the change again.",
        where=comp.name,
    )


def check_elements(project_id: int, document: Document) -> None:
    """`DocumentRefused` where a layer names an element that the project has not."""
    known = {key(e) for e in Element.objects.filter(project_id=project_id).only("pk")}
    for layer in document.all_layers:
        if isinstance(layer, Layer) and layer.element not in known and comp_number(layer.element) is None:
            raise DocumentRefused(
                f"Layer {layer.name} uses an element that this project does not have.",
                advice="Choose another element for it.", where=layer.name,
            )  # fmt: skip


def _accept(comp: Comp, data: dict[str, Any], person: Any, what: str, **turns: int) -> Comp:
    """``turns``: the revision that it takes back or does again."""
    comp.revision += 1
    keep_revision(comp, data, comp.document, person=person, what=what, **turns)
    comp.document = data
    comp.name = data["name"]
    comp.save(update_fields=["revision", "document", "name"])
    announce(comp.project_id, "comps", comp.pk)
    return comp
