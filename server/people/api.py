"""Signing in and out."""

from __future__ import annotations

from axes.handlers.proxy import AxesProxyHandler
from config.errors import Problem, SignInRefused, TooManyTries
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema
from ninja.utils import check_csrf

router = Router(tags=["people"])


class SignIn(Schema):
    # no person's name is longer, and what guards against guessing could not keep it
    name: str = Field(max_length=150)
    password: str = Field(max_length=4096)


class PersonOut(Schema):
    id: int
    name: str


class SessionOut(Schema):
    person: PersonOut | None


def _session(request: HttpRequest) -> SessionOut:
    person = request.user
    if not person.is_authenticated:
        return SessionOut(person=None)
    return SessionOut(person=PersonOut(id=person.pk, name=person.get_username()))


@router.get("session", auth=None, response=SessionOut)
def read_session(request: HttpRequest) -> SessionOut:
    get_token(request)
    return _session(request)


@router.post("session", auth=None, response={200: SessionOut, 403: Problem, 422: Problem, 429: Problem})
def sign_in(request: HttpRequest, body: SignIn) -> SessionOut:
    """Name and password for a session. Guessing is throttled for each name and address."""
    if check_csrf(request):
        raise SignInRefused("The page is too old to sign in from.", advice="Reload it.")
    person = authenticate(request, username=body.name, password=body.password)
    if person is None:
        if AxesProxyHandler.is_locked(request, {"username": body.name}):
            raise TooManyTries(
                "Too many wrong passwords for this name.", advice="Wait five minutes, then try again."
            )
        raise SignInRefused("The name or the password is wrong.", advice="Check both and try again.")
    login(request, person)
    return _session(request)


@router.delete("session", response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    logout(request)
    return _session(request)
