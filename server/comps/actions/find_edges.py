"""A matte's edge found in the picture over a range of frames, so that it plays and goes out at once.

What is found is kept by the evaluator, in files under the key of all that made it: the comp does not change.
"""

from __future__ import annotations

from typing import Any

from config.engine import evaluator
from config.errors import Conflict
from config.queueing import check_range, ranges_of
from django.db import transaction
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.control import Control
from jobs.models import UNENDED, Job, Piece
from neatveil.comp import Comp as Document
from neatveil.comp.layers import AnyLayer, MatteOwner, matte_of, sources_named
from neatveil.comp.loading import parse_comp
from neatveil.comp.timing import layer_shows
from neatveil.comp.tree import path_to
from neatveil.errors import Cancelled, ValueRefused

from comps.inner_comps import with_all_sources
from comps.models import Comp, EdgeSearch

KIND, QUEUE = "matte", "mattes"
#: Frames of a piece: each takes seconds, and several workers share them.
PIECE_FRAMES = 4
#: A quarter and half of the size, as it is mostly seen, and full size, as it goes out.
LEVELS = (2, 1, 0)


def order_edges(comp: Comp, person: Any, layer: str, owner: str, first: int, last: int) -> EdgeSearch:
    """Queue a search; the one before of the same matte leaves the list.

    Raises `ValueRefused` for a matte that finds no edge or frames that the comp has not; `Conflict` for one
    that is being found already.
    """
    document = parse_comp(comp.document, comp.name)
    own = document.layer(layer)
    if not matte_of(own, owner_of(owner)).finds_edge:
        raise ValueRefused(
            f"The matte of {own.name} is used as it is made.",
            advice="Choose Found in the picture as its edge first.", where=own.name,
        )  # fmt: skip
    if not document.first <= first <= last <= document.last:
        raise ValueRefused(
            f"The comp has no frames {first} to {last}.",
            advice=f"It has {document.first} to {document.last}.", where="first",
        )  # fmt: skip
    check_range(first, last)
    if comp.edge_searches.filter(layer=layer, owner=owner, job__state__in=UNENDED).exists():
        raise Conflict(f"The edge of {own.name} is being found already.", advice="Cancel that first.")
    with transaction.atomic():
        # what was found before stays found; the list has one row a matte
        Job.objects.filter(
            edge_search__comp=comp, edge_search__layer=layer, edge_search__owner=owner
        ).delete()
        job = create_job(KIND, comp.project_id, person, ranges_of(first, last, PIECE_FRAMES))
        row = EdgeSearch.objects.create(
            project_id=comp.project_id, comp=comp, job=job, document=comp.document, layer=layer, owner=owner
        )
        queue_pieces(job)
    return row


def run_piece(piece: Piece, control: Control) -> None:
    """Have the matte of each frame made: what was found of it is kept."""
    row = EdgeSearch.objects.select_related("comp").get(job_id=piece.job_id)
    document = with_all_sources(parse_comp(row.document, row.comp.name), row.project_id)
    for frame in range(piece.first, piece.last + 1):
        for level in LEVELS:
            if control.cancelled():
                raise Cancelled("It was cancelled.")
            if _shows(document, row.layer, frame):
                evaluator().matte(document, frame, row.layer, owner_of(row.owner), level)
        control.frame_written(frame)


def finish(job: Job, control: Control) -> None:
    """Nothing comes after the last frame."""


def is_of_now(row: EdgeSearch) -> bool:
    """Whether the layer, and the layers that it reads, still are what its edge was found for."""
    before, now = (_all_that_counts(document, row.layer) for document in (row.document, row.comp.document))
    return before is not None and before == now


def owner_of(text: str) -> MatteOwner:
    """Of a matte, as it is written in a row."""
    return "alpha" if text == "alpha" else int(text) if text else None


def _shows(document: Document, layer: str, frame: int) -> bool:
    """The layer itself, where no group has times of its own."""
    path = path_to(document.layers, layer)
    return len(path) > 1 or layer_shows(document, path[0], frame)


def _all_that_counts(document: Any, layer: str) -> list[dict[str, Any]] | None:
    """The layer without what comes after its matte, and all that it takes besides; None where it is gone."""
    parsed = parse_comp(document, lenient=True)
    own = _layer_in(parsed, layer)
    if own is None:
        return None
    after = {"name", "operator", "opacity", "locked", "repeat"}
    read = _read_by(parsed, own)
    if not read:
        return [own.model_dump(mode="json", exclude={*after, "transform", "card"})]
    # where the layers lie counts where one is read as it is placed
    found = [own.model_dump(mode="json", exclude=after)]
    return [*found, *(x.model_dump(mode="json", exclude={"name", "locked"}) for x in read)]


def _read_by(document: Document, layer: AnyLayer) -> list[AnyLayer]:
    """The layers that a layer's steps and mattes take, and those that these take in turn."""
    found: dict[str, AnyLayer] = {}
    waiting = [layer]
    while waiting:
        for name in sources_named(waiting.pop()):
            one = _layer_in(document, name.removeprefix("layer:")) if name.startswith("layer:") else None
            if one is not None and one.id not in found and one.id != layer.id:
                found[one.id] = one
                waiting.append(one)
    return list(found.values())


def _layer_in(document: Document, layer: str) -> AnyLayer | None:
    path = path_to(document.layers, layer)
    return path[-1] if path else None
