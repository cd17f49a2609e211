"""What every request must keep to, and that every error of the API has the documented form."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from http import HTTPStatus

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse

from .errors import answer
from .logs import new_request_id, request_scope

log = logging.getLogger("neatveil.requests")
Answer = Callable[[HttpRequest], HttpResponse]
#: Seconds after which an answer is slow enough for a line in the log.
SLOW = 2.0


def with_request_id(get_response: Answer) -> Answer:
    """Gives every request an id that its answer carries, its log lines, and the jobs that it queues.

    A proxy of our own may send one. Requests that change something, fail or are slow are logged.
    """

    def middleware(request: HttpRequest) -> HttpResponse:
        request_id = new_request_id(request.headers.get("X-Request-ID", "") if settings.PROXIES else "")
        with request_scope(request_id):
            begun = time.monotonic()
            response = get_response(request)
            response["X-Request-ID"] = request_id
            took = time.monotonic() - begun
            changing = request.method in {"POST", "PUT", "PATCH", "DELETE"} and not _only_looks(request)
            if changing or response.status_code >= 500 or took > SLOW:
                log.info(
                    "%s %s: %d", request.method, request.path, response.status_code,
                    extra={"seconds": round(took, 3), "person": _person(request)},
                )  # fmt: skip
        return response

    return middleware


def _person(request: HttpRequest) -> int | None:
    """Who asked, where that was found out: a line in the log is no reason to ask the database."""
    user = getattr(request, "_cached_user", None)
    return None if user is None else user.pk


def _only_looks(request: HttpRequest) -> bool:
    """Pictures and values are asked by POST, because of their documents, dozens of times a second."""
    return request.path.rsplit("/", 1)[-1] in {"picture", "values", "profile", "measure"}


def checked_requests(get_response: Answer) -> Answer:
    """Refuses hosts that the settings do not name and addresses that no database can look for."""

    def middleware(request: HttpRequest) -> HttpResponse:
        try:
            request.get_host()
        except DisallowedHost:
            return answer(400, code="host-refused", message="This address is not the application's own.")
        if "\0" in request.path or "%00" in request.META.get("QUERY_STRING", ""):
            return answer(422, code="value-refused", message="An address cannot hold the character NUL.")
        response = get_response(request)
        if request.path.startswith("/api/") and response.status_code >= 400:
            return _in_our_form(request, response)
        return response

    return middleware


def _in_our_form(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """Answers that a library made in another form, such as of an unknown address or method."""
    if response.streaming or response.get("Content-Type", "").startswith("application/json"):
        return response
    phrase = HTTPStatus(response.status_code).phrase
    codes = {404: "not-there", 405: "method-refused", 400: "request-refused", 413: "too-large"}
    made = answer(
        response.status_code, code=codes.get(response.status_code, "refused"),
        message=f"{request.method} {request.path}: {phrase}.",
    )  # fmt: skip
    for name in ("Allow", "Retry-After"):
        if name in response:
            made[name] = response[name]
    return made
