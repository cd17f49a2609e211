"""Lists of comps: rows fill slots with the project's elements and comps, by their names."""

from __future__ import annotations

from elements.models import Element
from elements.resolve import key
from neatveil.comp import Comp as Document
from neatveil.comp.rows import CellProblem, problems_of
from neatveil.comp.slots import Pictures, filled
from neatveil.errors import NameUnknown, ValueRefused

from .inner_comps import comp_key
from .models import Comp


def pictures_of(project_id: int) -> Pictures:
    """Finds what a cell names: a key, the name of an element that is ready, or that of a comp."""
    named: dict[str, str] = {}
    for comp in Comp.objects.filter(project_id=project_id).only("pk", "name"):
        named[comp.name] = named[comp_key(comp.pk)] = comp_key(comp.pk)
    # what is not read yet, or refused, is not there; of two of a name the older one counts
    ready = Element.objects.filter(project_id=project_id, state=Element.State.READY)
    for element in ready.only("pk", "name").order_by("-pk"):
        named[element.name] = named[key(element)] = key(element)

    def find(cell: str) -> tuple[str, None]:
        if cell not in named:
            raise NameUnknown(
                f"The project has no element or comp {cell}.",
                advice="Import it, or write the name as its card shows it.", where=cell,
            )  # fmt: skip
        return named[cell], None

    return find


def with_row(document: Document, project_id: int, row: int) -> Document:
    """The document filled by a row of its list, from 1; `ValueRefused` where there is none or it is wrong."""
    if not 1 <= row <= len(document.rows):
        raise ValueRefused(f"The list has no row {row}.", advice=f"It has {len(document.rows)}.", where="row")
    return filled(document, document.rows[row - 1], pictures_of(project_id))


def cells_wrong(document: Document, project_id: int) -> list[CellProblem]:
    """What is wrong with the list, cell by cell."""
    return problems_of(document, document.rows, pictures_of(project_id))
