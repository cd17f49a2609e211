"""A line on which the pictures of a comp come while something of it is dragged.

A hand asks for a picture dozens of times a second. By HTTP each of them carries the whole document, and the
database is asked who asks and what the comp uses: that takes longer than the picture. Here a document is sent
once, and then only the layers that move; what it uses is looked up once a second, and so is who asks.

A message is JSON: ``number``, ``ask`` (a picture as `comp_picture` takes it), ``base``: a number for the
document in it, or of the one sent before in which the layers ``changed`` are others. The answer is the length
of its head in four bytes (little-endian), the head in JSON (the message's number and what `comp_picture`
tells in headers, or a problem and its status), and the JPEG.
"""

from __future__ import annotations

import json
import threading
import time
from typing import Any

from config.auth import person_of_scope
from config.engine import drawing
from config.errors import NotSignedIn, as_problem
from config.parsing import parsed_json
from config.pictures import jpeg_of
from elements.resolve import keys_used
from neatveil.comp import Comp as Document
from neatveil.comp.layers import AnyLayer
from neatveil.errors import DocumentRefused, ValueRefused
from ninja import Field, Schema
from projects.access import row_for

from .api.pictures import CompShown, looked_at, passing_screen, told_of
from .asking import Sources, ask_sources
from .models import Comp

#: Seconds for which what a comp uses, and who asks, is not looked up again.
FRESH = 1.0


class Move(Schema):
    """One message of the line."""

    number: int
    ask: CompShown
    base: int = 0
    changed: list[AnyLayer] = Field([], max_length=1000)


class PassingLine:
    """One page's line: the document that it sent last, and what that uses.

    ``scope``: of the ASGI connection, with the cookies that tell who asks.

    Raises
    ------
    NotSignedIn, NotThere : for whoever may not see the comp.
    """

    def __init__(self, scope: Any, comp_id: int) -> None:
        self._scope, self._comp_id = scope, comp_id
        self._lock = threading.Lock()
        self._base: tuple[int, Document] | None = None
        self._sources: tuple[tuple[str, ...], str, Sources] | None = None
        self._asked = 0.0
        row_for(self._who(), Comp, comp_id, "comp")

    def answer(self, message: str | bytes) -> bytes:
        """The answer to one message; every error is an answer too."""
        number = -1
        try:
            written = parsed_json(message)
            number = written.get("number", -1) if isinstance(written, dict) else -1
            head, jpeg = self._drawn(Move.model_validate(written))
        except Exception as error:  # noqa: BLE001 - told to the page, and logged where it was not foreseen
            status, row = as_problem(error, f"passing pictures of comp {self._comp_id}")
            head, jpeg = {"status": status, "problem": row}, b""
        told = json.dumps({"number": number, **head}).encode()
        return len(told).to_bytes(4, "little") + told + jpeg

    def _drawn(self, move: Move) -> tuple[dict[str, Any], bytes]:
        ask = move.ask
        if ask.against is not None or ask.row is not None or ask.quality != "fast":
            raise ValueRefused(
                "Comparisons, rows of a list and exact pictures are asked for by HTTP.", where="ask"
            )
        with self._lock:
            document = self._document(move)
            sources = self._used_by(
                document, {k: d.model_dump(exclude_none=True) for k, d in ask.elements.items()}
            )
        document = looked_at(document.with_elements(*sources), ask, ask.frame)
        with drawing(ask.viewer, ask.sequence) as outdated:
            begun = time.perf_counter()
            screen, frame, failed = passing_screen(document, ask, outdated)
            took = time.perf_counter() - begun
            head = {
                "region": screen.box.as_list(), "frame": [frame.width, frame.height],
                "problems": told_of(failed), "evaluate": round(took * 1e3, 1),
            }  # fmt: skip
            return head, jpeg_of(screen)

    def _document(self, move: Move) -> Document:
        if move.ask.document is not None:
            self._base = move.base, move.ask.document
        if self._base is None or self._base[0] != move.base:
            raise DocumentRefused("The document that this changes was not sent.", advice="Send all of it.")
        whole = self._base[1]
        return whole.with_layers(move.changed) if move.changed else whole

    def _used_by(self, document: Document, drafts: dict[str, Any]) -> Sources:
        """What the document uses, as it was looked up within the last second where that is the same."""
        keys, drafted = tuple(keys_used(document)), json.dumps(drafts, sort_keys=True)
        fresh = time.monotonic() - self._asked < FRESH and not document.needs_cameras
        if fresh and self._sources is not None and self._sources[:2] == (keys, drafted):
            return self._sources[2]
        _, sources = ask_sources(self._who(), self._comp_id, document, drafts)
        self._sources = keys, drafted, sources
        self._asked = time.monotonic()
        return sources

    def _who(self) -> Any:
        person = person_of_scope(self._scope)
        if person is None:
            raise NotSignedIn("You are not signed in.", advice="Sign in again.")
        return person
