"""Lines that stay open between a page and the server (WebSockets): messages and their answers.

Every message is worked on in a thread of the web process, as a request is; the answer to a later one may come
first. Only pages of our own address are let in: a browser sends cookies with a line from any page.
"""

from __future__ import annotations

import asyncio
import re
from collections.abc import Awaitable, Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from io import BytesIO
from typing import Any, Protocol

from django.core.exceptions import DisallowedHost
from django.core.handlers.asgi import ASGIRequest
from django.db import close_old_connections
from django.http import HttpResponse
from django.middleware.csrf import CsrfViewMiddleware
from neatveil.errors import NeatVeilError

from .logs import new_request_id, request_scope

#: Messages of one line in work at once: a page has one or two; more wait.
MOST_AT_ONCE = 4
#: Closed before it was opened: the browser is told 403.
REFUSED = {"type": "websocket.close", "code": 4403}


class Line(Protocol):
    """One end of an open line."""

    def answer(self, message: str | bytes) -> bytes:
        """The answer to a message; raises nothing."""


#: Makes the line of a connection; raises `NeatVeilError` for whoever may not have it.
Opens = Callable[[Any, int], Line]


async def serve(
    scope: Any, receive: Callable[[], Awaitable[Any]], send: Callable[[Any], Awaitable[None]],
    threads: ThreadPoolExecutor, lines: dict[re.Pattern[str], Opens],
) -> None:  # fmt: skip
    """A connection from its opening to its end. ``lines``: by their path, with the number in it."""
    loop = asyncio.get_running_loop()
    await receive()  # websocket.connect
    line = await loop.run_in_executor(threads, _opened, scope, lines)
    if line is None:
        await send(REFUSED)
        return
    await send({"type": "websocket.accept"})
    room = asyncio.Semaphore(MOST_AT_ONCE)
    working: set[asyncio.Task[None]] = set()

    async def work(message: str | bytes) -> None:
        try:
            found = await loop.run_in_executor(threads, _answered, line, message)
            await send({"type": "websocket.send", "bytes": found})
        except (OSError, RuntimeError):
            pass  # the page is gone: nobody waits for it
        finally:
            room.release()

    try:
        while (message := await receive())["type"] == "websocket.receive":
            await room.acquire()
            task = asyncio.create_task(work(message.get("text") or message.get("bytes") or b""))
            working.add(task)
            task.add_done_callback(working.discard)
    finally:
        await asyncio.gather(*working, return_exceptions=True)


def _opened(scope: Any, lines: dict[re.Pattern[str], Opens]) -> Line | None:
    """The line that is asked for; None for another site's page, and for whoever may not have it."""
    with _fresh_connection():
        try:
            if not _own_page(scope):
                return None
            for path, opens in lines.items():
                if found := path.fullmatch(scope["path"]):
                    return opens(scope, int(found[1]))
        except NeatVeilError:
            return None
    return None


def _own_page(scope: Any) -> bool:
    """As for a change by HTTP: from our own origin, or from one that the settings trust."""
    scheme = "https" if scope.get("scheme") == "wss" else "http"
    request = ASGIRequest({**scope, "scheme": scheme, "method": "GET"}, BytesIO())  # type: ignore[no-untyped-call]
    if "HTTP_ORIGIN" not in request.META:
        return False
    try:
        request.get_host()
    except DisallowedHost:
        return False
    check = CsrfViewMiddleware(lambda _: HttpResponse())
    return bool(check._origin_verified(request))  # type: ignore[attr-defined]


def _answered(line: Line, message: str | bytes) -> bytes:
    with _fresh_connection(), request_scope(new_request_id()):
        return line.answer(message)


@contextmanager
def _fresh_connection() -> Iterator[None]:
    """As about a request: the thread's connection to the database is replaced where it is dead or too old."""
    close_old_connections()
    try:
        yield
    finally:
        close_old_connections()
