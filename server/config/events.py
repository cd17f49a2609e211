"""Server-sent events: what changed in a project. One database listener a process, not one a browser."""

from __future__ import annotations

import asyncio
import json
import logging
from collections.abc import AsyncIterator

import psycopg
from asgiref.sync import sync_to_async
from django.db import connection
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from projects.access import is_member

from .errors import NotThere, not_signed_in, problem

CHANNEL = "neatveil_changes"
log = logging.getLogger(__name__)


def announce(project_id: int, kind: str, row_id: int) -> None:
    """Tell all who look at the project, once the current transaction is committed."""
    row = json.dumps({"project": project_id, "kind": kind, "id": row_id})
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, row])


class _Hub:
    """Listens while anyone is there, and passes each notice to those of its project."""

    def __init__(self) -> None:
        self.listeners: set[tuple[int, asyncio.Queue[str]]] = set()
        self.task: asyncio.Task[None] | None = None

    def join(self, project_id: int) -> tuple[int, asyncio.Queue[str]]:
        row = (project_id, asyncio.Queue[str](1000))
        self.listeners.add(row)
        if self.task is None or self.task.done():
            self.task = asyncio.get_running_loop().create_task(self._listen())
        return row

    def leave(self, row: tuple[int, asyncio.Queue[str]]) -> None:
        self.listeners.discard(row)

    async def _listen(self) -> None:
        params = await sync_to_async(connection.get_connection_params)()
        for key in ("cursor_factory", "context"):
            params.pop(key, None)
        while self.listeners:
            try:
                async with await psycopg.AsyncConnection.connect(**params, autocommit=True) as conn:
                    await conn.execute(f"LISTEN {CHANNEL}")
                    # What was said while the line was down is not known: everyone looks again.
                    self._all('{"kind": "everything", "id": 0}')
                    async for notice in conn.notifies():
                        self._pass_on(notice.payload)
            except psycopg.Error as error:
                log.warning("events: the database went away (%s); trying again", error)
                await asyncio.sleep(0.5)

    def _pass_on(self, text: str) -> None:
        project = json.loads(text)["project"]
        for project_id, queue in self.listeners:
            if project_id == project and not queue.full():
                queue.put_nowait(text)

    def _all(self, text: str) -> None:
        for _, queue in self.listeners:
            if not queue.full():
                queue.put_nowait(text)


_hub = _Hub()


def events(request: HttpRequest, project_id: int) -> HttpResponse | StreamingHttpResponse:
    """The stream of one project; the same answer for a stranger as for a project that is not there."""
    if not request.user.is_authenticated:
        return not_signed_in()
    if not is_member(request.user, project_id):
        return problem(NotThere("This project is not there."))

    async def stream() -> AsyncIterator[str]:
        row = _hub.join(project_id)
        try:
            yield ": here\n\n"
            while True:
                try:
                    text = await asyncio.wait_for(row[1].get(), 15)
                    yield f"data: {text}\n\n"
                except TimeoutError:
                    yield ": still here\n\n"
        finally:
            _hub.leave(row)

    response = StreamingHttpResponse(stream(), content_type="text/event-stream")
    response["Cache-Control"] = "no-cache"
    response["X-Accel-Buffering"] = "no"
    return response
