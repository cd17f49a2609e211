"""The web process: each request's whole work in one thread of a kept pool.

Django's own handler runs the middleware as coroutines and hops to a thread and back for every hook
of it, some thirty times a request, in a thread that is made for it together with a new database
connection object. That was 8 ms of every picture. Here a request is one hop, the threads stay, and
each keeps its connection. Responses that stream (server-sent events) still stream from the loop.
"""

from __future__ import annotations

import asyncio
import os
import re
import tempfile
from collections.abc import Awaitable, Callable, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from typing import IO, Any

import django
from django.conf import settings
from django.core import signals
from django.core.exceptions import RequestAborted
from django.core.handlers.asgi import ASGIHandler, ASGIRequest, get_script_prefix
from django.http import HttpResponse
from django.http.response import HttpResponseBase
from django.urls import set_script_prefix

from . import lines
from .errors import answer, not_signed_in

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Any]]
Send = Callable[[Any], Awaitable[None]]

#: Requests worked on at once, and the most database connections of this process.
THREADS = 20
#: Bytes of a request that is no upload; what is too large for its endpoint is told by that.
LARGEST_OTHER = 64 << 20


class _Refused(Exception):
    """A request that is answered before all of it has been read."""

    def __init__(self, response: HttpResponse) -> None:
        super().__init__()
        self.response = response


class OneHopHandler(ASGIHandler):
    chunk_size = 1 << 20

    def __init__(self) -> None:
        super().__init__()
        self.threads = ThreadPoolExecutor(THREADS, thread_name_prefix="request")

    def load_middleware(self, is_async: bool = False) -> None:
        super().load_middleware(is_async=False)

    async def __call__(
        self,
        scope: Any,
        receive: Receive,
        send: Send,
    ) -> None:
        if scope["type"] == "websocket":
            await lines.serve(scope, receive, send, self.threads, LINES)
            return
        if scope["type"] != "http":
            raise ValueError(f"Only HTTP and WebSockets are served, not {scope['type']}.")
        loop = asyncio.get_running_loop()
        try:
            body = await self._body(scope, receive)
        except RequestAborted:
            return
        except _Refused as refusal:
            await self.send_response(refusal.response, send)
            return
        with body:
            request, refused = self.create_request(scope, body)
            if request is None:
                assert refused is not None
                await self.send_response(refused, send)
                return
            response = await loop.run_in_executor(self.threads, self._answer, request, scope)
            if not response.streaming:
                await self.send_response(response, send)
                return
            try:
                await self._stream(response, receive, send)
            finally:
                await loop.run_in_executor(self.threads, response.close)

    async def _body(self, scope: Message, receive: Receive) -> IO[bytes]:
        """The request's body on disk; of people who are not signed in, and of no upload, only so much."""
        body: IO[bytes] = tempfile.SpooledTemporaryFile(  # noqa: SIM115 - the request closes it
            max_size=settings.FILE_UPLOAD_MAX_MEMORY_SIZE, mode="w+b", dir=settings.FILE_UPLOAD_TEMP_DIR
        )
        size, most = 0, settings.LARGEST_UNSIGNED
        while True:
            message = await receive()
            if message["type"] == "http.disconnect":
                body.close()
                raise RequestAborted
            piece = message.get("body", b"")
            size += len(piece)
            if size > most and most == settings.LARGEST_UNSIGNED:
                loop = asyncio.get_running_loop()
                if await loop.run_in_executor(self.threads, person_of_scope, scope) is None:
                    body.close()
                    raise _Refused(not_signed_in())
                most = settings.LARGEST_UPLOAD if scope["method"] == "PUT" else LARGEST_OTHER
            if size > most:
                body.close()
                raise _Refused(answer(413, code="too-large", message="The request is too large."))
            body.write(piece)
            if not message.get("more_body", False):
                body.seek(0)
                return body

    def _answer(self, request: ASGIRequest, scope: Message) -> HttpResponseBase:
        """Everything up to the finished response, in one thread."""
        set_script_prefix(get_script_prefix(scope))
        signals.request_started.send(sender=type(self), scope=scope)
        response = self.get_response(request)
        response._handler_class = type(self)  # type: ignore[attr-defined]
        if not response.streaming:
            response.close()  # gives the thread's connection its rest; the content stays
        return response

    async def _stream(
        self,
        response: HttpResponseBase,
        receive: Receive,
        send: Send,
    ) -> None:
        """Sends until the response or the line ends."""
        sending = asyncio.create_task(self.send_response(response, send))
        gone = asyncio.ensure_future(receive())
        try:
            await asyncio.wait({sending, gone}, return_when=asyncio.FIRST_COMPLETED)
        finally:
            for task in (sending, gone):
                task.cancel()
            await asyncio.gather(sending, gone, return_exceptions=True)


os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
django.setup(set_prefix=False)

# what follows has models, which are there once Django is set up
from comps.passing import PassingLine  # noqa: E402

from .auth import person_of_scope  # noqa: E402

#: The lines that can be opened, by their path with a number in it.
LINES: dict[re.Pattern[str], lines.Opens] = {re.compile(r"/api/comps/([0-9]{1,18})/passing"): PassingLine}
application = OneHopHandler()
