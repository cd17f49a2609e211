"""The web process: each request's whole work in one thread of a kept pool.

Django's own handler runs the middleware as coroutines and hops to a thread and back for every hook
of it, some thirty times a request, in a thread that is made for it together with a new database
connection object. That was 8 ms of every picture. Here a request is one hop, the threads stay, and
each keeps its connection. Responses that stream (server-sent events) still stream from the loop.
"""

from __future__ import annotations

import asyncio
import os
from collections.abc import Awaitable, Callable, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import django
from django.core import signals
from django.core.exceptions import RequestAborted
from django.core.handlers.asgi import ASGIHandler, ASGIRequest, get_script_prefix
from django.http import HttpResponse
from django.urls import set_script_prefix

Message = MutableMapping[str, Any]

#: Requests worked on at once, and the most database connections of this process.
THREADS = 20


class OneHopHandler(ASGIHandler):
    chunk_size = 1 << 20

    def __init__(self) -> None:
        super().__init__()
        self.threads = ThreadPoolExecutor(THREADS, thread_name_prefix="request")

    def load_middleware(self, is_async: bool = False) -> None:
        super().load_middleware(is_async=False)

    async def __call__(
        self,
        scope: Message,
        receive: Callable[[], Awaitable[Message]],
        send: Callable[[Message], Awaitable[None]],
    ) -> None:
        if scope["type"] != "http":
            raise ValueError(f"Only HTTP is served, not {scope['type']}.")
        try:
            body = await self.read_body(receive)
        except RequestAborted:
            return
        loop = asyncio.get_running_loop()
        with body:
            request, refused = self.create_request(scope, body)
            if request is None:
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

    def _answer(self, request: ASGIRequest, scope: Message) -> HttpResponse:
        """Everything up to the finished response, in one thread."""
        set_script_prefix(get_script_prefix(scope))
        signals.request_started.send(sender=type(self), scope=scope)
        response = self.get_response(request)
        response._handler_class = type(self)
        if not response.streaming:
            response.close()  # gives the thread's connection its rest; the content stays
        return response

    async def _stream(
        self,
        response: HttpResponse,
        receive: Callable[[], Awaitable[Message]],
        send: Callable[[Message], Awaitable[None]],
    ) -> None:
        """Sends until the response or the line ends."""
        sending = asyncio.create_task(self.send_response(response, send))
        gone = asyncio.create_task(receive())
        try:
            await asyncio.wait({sending, gone}, return_when=asyncio.FIRST_COMPLETED)
        finally:
            for task in (sending, gone):
                task.cancel()
            await asyncio.gather(sending, gone, return_exceptions=True)


os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
django.setup(set_prefix=False)
application = OneHopHandler()
