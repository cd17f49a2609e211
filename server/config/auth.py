"""Who asks: the signed-in person, with CSRF checked."""

from __future__ import annotations

from importlib import import_module
from io import BytesIO
from typing import Any, cast

from django.conf import settings
from django.contrib.auth import get_user
from django.core.handlers.asgi import ASGIRequest
from django.http import HttpRequest
from ninja.security import SessionAuth
from people.models import Person

person_session = SessionAuth()


def person_of(request: HttpRequest) -> Person:
    """Who asks; only behind `person_session`, which lets nobody else through."""
    return cast(Person, request.user)


def person_of_scope(scope: Any) -> Person | None:
    """Who a connection's session cookie is of; None for nobody who may sign in. Without the check of CSRF."""
    request = ASGIRequest({"method": "GET", **scope}, BytesIO())  # type: ignore[no-untyped-call]
    key = request.COOKIES.get(settings.SESSION_COOKIE_NAME)
    if not key:
        return None
    request.session = import_module(settings.SESSION_ENGINE).SessionStore(key)
    person = get_user(request)
    return person if person.is_authenticated else None
