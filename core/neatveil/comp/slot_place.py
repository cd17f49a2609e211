"""Where a slot lies in a comp."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .elements import DocumentModel, Identifier

#: What a cell of the list says.
Cell = Annotated[str, Field(max_length=2000)]


class Slot(DocumentModel):
    """A place of the comp under a name, which is a column of the list.

    Slots of one name are filled by the same cell.
    """

    name: str = Field(
        pattern=r"^[A-Za-z][A-Za-z0-9_ -]{0,39}$", title="Name", description="Column of the list."
    )
    layer: Identifier = Field(title="Layer")
    step: int | None = Field(
        None, ge=0, title="Step", description="Its place among the layer's; none: itself."
    )
    field: str = Field(
        pattern=r"^[a-z_]{1,40}$",
        title="Field",
        description="element, second, or a number, colour or text of a step or of what is made.",
    )
