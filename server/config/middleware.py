"""What every request must keep to, and that every error of the API has the documented form."""

from __future__ import annotations

from collections.abc import Callable
from http import HTTPStatus

from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse

from .errors import answer

Answer = Callable[[HttpRequest], HttpResponse]


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
