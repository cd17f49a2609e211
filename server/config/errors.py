"""Errors of the server, and how every error becomes an answer with a code."""

from __future__ import annotations

import json
import logging
import sys
from collections.abc import Sequence
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from neatveil.errors import NeatVeilError, describe
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import ValidationError as PydanticError

from .logs import current_request

log = logging.getLogger(__name__)


class Problem(Schema):
    """What every error answer holds."""

    code: str
    message: str
    advice: str = ""
    where: str = ""


class NotThere(NeatVeilError):
    """Not there, or not for this person: the answer is the same."""

    code = "not-there"


class Conflict(NeatVeilError):
    code = "conflict"


class Stale(NeatVeilError):
    """A write started from a revision that is no longer the newest."""

    code = "stale"


class NotSignedIn(NeatVeilError):
    code = "not-signed-in"


class SignInRefused(NeatVeilError):
    code = "sign-in-refused"


class TooManyTries(NeatVeilError):
    code = "too-many-tries"


STATUS = {
    "not-there": 404,
    "conflict": 409,
    "stale": 409,
    "would-lose": 409,
    "sign-in-refused": 403,
    "too-many-tries": 429,
    "disk-full": 507,
    "cancelled": 499,
    "not-signed-in": 401,
}


def answer(status: int, **row: str) -> JsonResponse:
    return JsonResponse({"code": "", "message": "", "advice": "", "where": "", **row}, status=status)


def problem(error: NeatVeilError) -> JsonResponse:
    return answer(STATUS.get(error.code, 422), **describe(error))


def not_signed_in() -> JsonResponse:
    return answer(401, code="not-signed-in", message="You are not signed in.", advice="Sign in again.")


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return answer(
        403, code="csrf", message="This request did not come from the application's own page.",
        advice="Reload the page and try again.",
    )  # fmt: skip


def server_error(request: HttpRequest) -> HttpResponse:
    """What is raised outside the API's own functions, such as by a session that cannot be read."""
    error = sys.exc_info()[1]
    if isinstance(error, OperationalError | InterfaceError):
        return database_away()
    return _unforeseen()


def _unforeseen() -> JsonResponse:
    return answer(
        500, code="unforeseen", message="Something went wrong that was not foreseen.",
        advice=f"Nothing was changed by this request; the log says more, under {current_request()}.",
    )  # fmt: skip


def database_away() -> JsonResponse:
    return answer(
        503, code="database-away", message="The database does not answer just now.",
        advice="Nothing was lost; try again in a moment.",
    )  # fmt: skip


def _invalid(errors: Sequence[Any]) -> JsonResponse:
    lines = [f"{_where(e['loc'])}: {e['msg']}" for e in errors[:5]]
    where = _where(errors[0]["loc"]) if errors else ""
    return answer(422, code="value-refused", message="; ".join(lines), where=where)


def _where(loc: tuple[Any, ...]) -> str:
    return ".".join(str(p) for p in loc)


def as_problem(error: Exception, what: str) -> tuple[int, dict[str, str]]:
    """The status and the problem of an error met outside the API's own functions; ``what``: for the log."""
    if isinstance(error, NeatVeilError):
        response = problem(error)
    elif isinstance(error, PydanticError):
        response = _invalid(error.errors())
    elif isinstance(error, OperationalError | InterfaceError):
        response = database_away()
    elif isinstance(error, json.JSONDecodeError | UnicodeDecodeError):
        response = answer(400, code="request-refused", message=f"This is no JSON: {error}.")
    else:
        log.error("%s failed", what, exc_info=error)
        response = _unforeseen()
    return response.status_code, json.loads(response.content)


def install(api: NinjaAPI) -> None:
    """Turn exceptions into answers."""

    @api.exception_handler(NeatVeilError)
    def known(request: HttpRequest, error: NeatVeilError) -> HttpResponse:
        return problem(error)

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return not_signed_in()

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return _invalid([{**e, "loc": e["loc"][2:] or e["loc"]} for e in error.errors])

    @api.exception_handler(RequestDataTooBig)
    def too_large(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return answer(
            413, code="too-large",
            message=f"The request is larger than {settings.DATA_UPLOAD_MAX_MEMORY_SIZE >> 20} MB.",
        )  # fmt: skip

    @api.exception_handler(HttpError)
    def refused(request: HttpRequest, error: HttpError) -> HttpResponse:
        return answer(error.status_code, code="request-refused", message=f"{error.message}.")

    @api.exception_handler(Exception)
    def unforeseen(request: HttpRequest, error: Exception) -> HttpResponse:
        log.error("%s %s failed", request.method, request.path, exc_info=error)
        return server_error(request)

    @api.exception_handler(OperationalError)
    @api.exception_handler(InterfaceError)
    def database(request: HttpRequest, error: Exception) -> HttpResponse:
        return database_away()
