"""Notes that people pin to a frame and a place of a comp: what is to be done there, or was."""

from __future__ import annotations

from pydantic import Field

from .elements import DocumentModel, Identifier


class Note(DocumentModel):
    """Words at a frame, and at a place of it. They change nothing of the picture."""

    id: Identifier
    text: str = Field(min_length=1, max_length=2000, title="Note")
    frame: int = Field(title="Frame")
    x: float = Field(ge=-1e5, le=1e5, title="x", description="In pixels from the frame's upper left corner.")
    y: float = Field(ge=-1e5, le=1e5, title="y")
    done: bool = Field(False, title="Done")
